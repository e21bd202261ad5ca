import { folded } from '../../core/kernel/folded';
import { allQuestions } from '../../core/form/design';
import type { Workbench } from './use-workbench';

/** Something that can be gone to by typing: a setting in the margin, a line, or a face. */
export interface Findable {
  readonly words: string;
  readonly what: 'setting' | 'line' | 'face';
  readonly go: () => void;
}

/** Whatever can be set in a margin: controls with the sentence they stand in. */
const CONTROLS = 'button, input, textarea, select, [contenteditable="true"]';

/** What the margin holds now, read from the page: whatever is shown there can be found, also what is added to it later. */
export function settingsIn(margin: Element | null): Findable[] {
  const found = new Map<string, Findable>();
  for (const control of margin?.querySelectorAll<HTMLElement>(CONTROLS) ?? []) {
    if (control.closest('[aria-hidden="true"], .sr-only') !== null || control.hidden) continue;
    const words = wordsOf(control);
    if (words !== '' && !found.has(words))
      found.set(words, { words, what: 'setting', go: () => to(control) });
  }
  return [...found.values()];
}

function wordsOf(control: HTMLElement): string {
  const sentence = control.closest('[data-sentence], label');
  const own = control.getAttribute('aria-label') ?? '';
  const said = readable(sentence ?? control);
  return sentence === null ? own || said : own !== '' && !said.includes(own) ? `${own}: ${said}` : said;
}

/** What is read there: without the lists that a browser keeps beside a pick. */
function readable(element: Element): string {
  const copy = element.cloneNode(true) as Element;
  for (const unread of copy.querySelectorAll('[aria-hidden="true"], select')) unread.remove();
  return copy.textContent.replace(/\s+/g, ' ').trim();
}

function to(control: HTMLElement): void {
  control.scrollIntoView({ block: 'center' });
  control.focus();
}

/** Every line of the form, and every face. */
export const linesAndFaces = (
  bench: Workbench,
  faces: readonly { readonly key: string; readonly words: string }[],
  goTo: (face: string) => void,
): Findable[] => [
  ...faces.map(({ key, words }): Findable => ({ words, what: 'face', go: () => goTo(key) })),
  ...allQuestions(bench.design).map(({ id, label }): Findable => ({
    words: `${bench.numbers.get(id) ?? ''} ${label}`.trim(),
    what: 'line',
    go: () => {
      goTo('ask');
      bench.select(id);
    },
  })),
];

/** Those that have every word that was typed, wherever it stands in them; those that begin with it first. */
export function matching(all: readonly Findable[], typed: string): Findable[] {
  const parts = folded(typed)
    .split(/\s+/)
    .filter((part) => part !== '');
  const rank = ({ words }: Findable): number => (folded(words).startsWith(parts[0] ?? '') ? 0 : 1);
  return all
    .filter(({ words }) => parts.every((part) => folded(words).includes(part)))
    .sort((a, b) => rank(a) - rank(b));
}
