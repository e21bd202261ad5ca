import { EditHistory } from '../kernel/edit-history';
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

/** What was done to a sheet: a paste is one step, and so is a word typed in one place. */
export const sheetHistory = (): EditHistory<SheetEdit> => new EditHistory({ inverse, joined: joinedTyping });

/** Typing on in the same place goes on with the same step. */
function joinedTyping(last: readonly SheetEdit[], edits: readonly SheetEdit[]): readonly SheetEdit[] | null {
  const [before, after] = [last[0], edits[0]];
  if (last.length !== 1 || edits.length !== 1 || before === undefined || after === undefined) return null;
  if (before.t === 'reason' && after.t === 'reason' && before.check === after.check)
    return [{ ...before, after: after.after }];
  const same =
    before.t === 'answer' && after.t === 'answer' && before.place.join('/') === after.place.join('/');
  return same ? [{ ...before, after: after.after }] : null;
}
