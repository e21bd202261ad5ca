import type { AnswerRow, Raw } from './answers';
import type { Place } from './cells';

/** One change of a sheet, as data: it can be applied, and turned round. */
export type SheetEdit =
  | { readonly t: 'answer'; readonly place: Place; readonly before: Raw; readonly after: Raw }
  | { readonly t: 'insert'; readonly group: string; readonly at: number; readonly row: AnswerRow }
  | { readonly t: 'remove'; readonly group: string; readonly at: number; readonly row: AnswerRow }
  | {
      readonly t: 'move';
      readonly group: string;
      readonly row: string;
      readonly from: number;
      readonly to: number;
    }
  | { readonly t: 'reason'; readonly check: string; readonly before: string; readonly after: string };

export function inverse(edit: SheetEdit): SheetEdit {
  switch (edit.t) {
    case 'answer':
      return { ...edit, before: edit.after, after: edit.before };
    case 'insert':
      return { ...edit, t: 'remove' };
    case 'remove':
      return { ...edit, t: 'insert' };
    case 'move':
      return { ...edit, from: edit.to, to: edit.from };
    case 'reason':
      return { ...edit, before: edit.after, after: edit.before };
  }
}

/** More than anyone goes back. */
const MOST_STEPS = 500;

/** What was done, to be undone and done again. One step is what a person did at once: a paste is one, and so is a word typed in one place. */
export class EditHistory {
  private readonly done: (readonly SheetEdit[])[] = [];
  private readonly undone: (readonly SheetEdit[])[] = [];
  private open = false;

  get canUndo(): boolean {
    return this.done.length > 0;
  }

  get canRedo(): boolean {
    return this.undone.length > 0;
  }

  did(edits: readonly SheetEdit[]): void {
    if (edits.length === 0) return;
    this.undone.length = 0;
    const joined = this.open ? joinedTyping(this.done.at(-1), edits) : null;
    if (joined !== null) this.done[this.done.length - 1] = joined;
    else this.done.push(edits);
    if (this.done.length > MOST_STEPS) this.done.shift();
    this.open = true;
  }

  /** What followed from the last step by itself goes with it, back and forth. */
  also(edits: readonly SheetEdit[]): void {
    const last = this.done.pop();
    this.done.push([...(last ?? []), ...edits]);
  }

  /** The person has left the place: what is typed there next is a step of its own. */
  pause(): void {
    this.open = false;
  }

  /** What to apply to go back one step, last edit first. */
  undo(): readonly SheetEdit[] {
    const step = this.done.pop();
    if (step === undefined) return [];
    this.undone.push(step);
    this.open = false;
    return [...step].reverse().map(inverse);
  }

  redo(): readonly SheetEdit[] {
    const step = this.undone.pop();
    if (step === undefined) return [];
    this.done.push(step);
    this.open = false;
    return step;
  }
}

/** Typing on in the same place goes on with the same step. */
function joinedTyping(
  last: readonly SheetEdit[] | undefined,
  edits: readonly SheetEdit[],
): readonly SheetEdit[] | null {
  const [before, after] = [last?.[0], edits[0]];
  if (last?.length !== 1 || edits.length !== 1 || before === undefined || after === undefined) return null;
  if (before.t === 'reason' && after.t === 'reason' && before.check === after.check)
    return [{ ...before, after: after.after }];
  const same =
    before.t === 'answer' && after.t === 'answer' && before.place.join('/') === after.place.join('/');
  return same ? [{ ...before, after: after.after }] : null;
}
