import { useEffect } from 'react';

/** Ctrl S saves what is staged, wherever the focus is. */
export function useSaveKey(save: () => Promise<void>): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
      event.preventDefault();
      void save();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [save]);
}
