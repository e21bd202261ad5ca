import { useEffect } from 'react';
import type { Filling } from './use-fill';

/** Ctrl Z takes the last step back, Ctrl Shift Z or Ctrl Y does it again; the browser's own undo knows only the field it stands in. */
export function useUndoKeys({ sheet, changed }: Filling): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase();
      const back = key === 'z' && !event.shiftKey;
      if (
        !(event.ctrlKey || event.metaKey) ||
        (key !== 'z' && key !== 'y') ||
        !(back ? sheet.canUndo : sheet.canRedo)
      )
        return;
      event.preventDefault();
      if (back) sheet.undo();
      else sheet.redo();
      changed();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [sheet, changed]);
}

/** Ctrl Enter sends, wherever the focus is. */
export function useSendKey(send: () => void): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
      // A record that is being added on the spot is what is meant.
      if (document.querySelector('dialog[open]') !== null) return;
      event.preventDefault();
      event.stopPropagation();
      send();
    };
    // Before the control in hand hears of it: a button would take Enter for itself.
    window.addEventListener('keydown', pressed, true);
    return () => window.removeEventListener('keydown', pressed, true);
  });
}
