/** Says what was done, with the way to undo it. What shows it is fetched when there is something to say. */
export function sayWithUndo(words: string, undo: () => void): void {
  void import('./Toasts').then(({ show }) => show(words, undo));
}
