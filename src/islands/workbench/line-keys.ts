import { useEffect, type KeyboardEvent as LineKey, type MouseEvent } from 'react';
import { duplicateLine, moveLine, takeOut } from './line-edits';
import type { Workbench } from './use-workbench';

/** What a click on a line takes in hand: it, it as well, or all up to it. */
export function clickLine(event: MouseEvent, bench: Workbench, id: string): void {
  if (event.shiftKey) bench.selectTo(id);
  else if (event.ctrlKey || event.metaKey) bench.selectAlso(id);
  else bench.select(id);
}

/**
 * A line in hand by keyboard: arrows go to the next one, with Shift they take it in hand as well, with Alt
 * they move the line; Enter goes to its settings and Escape comes back; Delete takes it out, Ctrl D makes a
 * second one.
 */
export function pressLine(event: LineKey<HTMLElement>, bench: Workbench, id: string): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : null;
  const isCommand = event.ctrlKey || event.metaKey;
  if (by !== null && event.altKey) moveLine(bench, id, by);
  else if (by !== null)
    goToNext(event.currentTarget, by, (next) => (event.shiftKey ? bench.selectTo(next) : bench.select(next)));
  else if (event.key === 'Delete' || event.key === 'Backspace')
    takeOut(bench, bench.hand.includes(id) ? bench.hand : [id]);
  else if (event.key.toLowerCase() === 'd' && isCommand) duplicateLine(bench, id);
  else if (event.key === 'Enter' && bench.selected === id) goToMargin();
  else return;
  event.preventDefault();
}

function goToNext(from: HTMLElement, by: 1 | -1, take: (id: string) => void): void {
  const lines = [...document.querySelectorAll<HTMLElement>('[data-line]')];
  const next = lines[lines.indexOf(from) + by];
  if (next === undefined) return;
  next.focus();
  take(next.dataset['line'] ?? '');
}

/** The first setting of what is in hand. */
const goToMargin = (): void =>
  document.querySelector<HTMLElement>('#margin :is(textarea, input, button):not(:disabled)')?.focus();

/** Escape leads from the margin back to the line in hand, where nothing else takes it. */
export function useEscapeToLine(selected: string | null): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const inMargin = event.target instanceof Element && event.target.closest('#margin') !== null;
      if (event.key !== 'Escape' || event.defaultPrevented || !inMargin) return;
      document.querySelector<HTMLElement>(`[data-line="${CSS.escape(selected ?? '')}"]`)?.focus();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [selected]);
}
