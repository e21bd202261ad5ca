import { speak } from '../../core/wording/speak';

/** Says what happened, with a button for what can be done about it. What shows it is fetched when there is something to say. */
export function sayWith(words: string, button: string, act: () => void): void {
  void import('./Toasts').then(({ show }) => show(words, button, act));
}

export const sayWithUndo = (words: string, undo: () => void): void => sayWith(words, speak`Undo`, undo);
