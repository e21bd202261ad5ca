/** More than anyone goes back. */
const MOST_STEPS = 500;

interface Ways<E> {
  readonly inverse: (edit: E) => E;
  /** The last step and what was done now as one, or null where they are two. */
  readonly joined: (last: readonly E[], edits: readonly E[]) => readonly E[] | null;
}

/** What was done, to be undone and done again. One step is what a person did at once. */
export class EditHistory<E> {
  private readonly done: (readonly E[])[] = [];
  private readonly undone: (readonly E[])[] = [];
  private open = false;

  constructor(private readonly ways: Ways<E>) {}

  get canUndo(): boolean {
    return this.done.length > 0;
  }

  get canRedo(): boolean {
    return this.undone.length > 0;
  }

  /** What would be taken back next. */
  get last(): readonly E[] {
    return this.done.at(-1) ?? [];
  }

  /** What would be done again next. */
  get next(): readonly E[] {
    return this.undone.at(-1) ?? [];
  }

  did(edits: readonly E[]): void {
    if (edits.length === 0) return;
    this.undone.length = 0;
    const joined = this.open ? this.ways.joined(this.done.at(-1) ?? [], edits) : null;
    if (joined !== null) this.done[this.done.length - 1] = joined;
    else this.done.push(edits);
    if (this.done.length > MOST_STEPS) this.done.shift();
    this.open = true;
  }

  /** What followed from the last step by itself goes with it, back and forth. */
  also(edits: readonly E[]): void {
    const last = this.done.pop();
    this.done.push([...(last ?? []), ...edits]);
  }

  /** The person has left the place: what is typed there next is a step of its own. */
  pause(): void {
    this.open = false;
  }

  /** What to apply to go back one step, last edit first. */
  undo(): readonly E[] {
    const step = this.done.pop();
    if (step === undefined) return [];
    this.undone.push(step);
    this.open = false;
    return [...step].reverse().map((edit) => this.ways.inverse(edit));
  }

  redo(): readonly E[] {
    const step = this.undone.pop();
    if (step === undefined) return [];
    this.done.push(step);
    this.open = false;
    return step;
  }
}
