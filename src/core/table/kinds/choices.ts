import { listOf, TEXT } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import type { ColumnChoice } from '../model';
import type { Kind } from './kind';
import { listStored, storedList, textsOf } from './stored-list';

/** As many stored codes as apply, in the order in which they are offered, each once; none of them is empty. */
export const choices: Kind = {
  type: listOf(TEXT),
  columnType: () => 'text[]',
  read(raw, { choices: offered = [] }) {
    const codes = typeof raw === 'string' ? listStored(raw) : null;
    if (codes === null) return fail(issue('not-a-choice', []));
    const strange = codes.find((code) => !offered.some((one) => one.code === code));
    if (strange !== undefined) return fail(issue('not-a-choice', []));
    return ok(codes.length === 0 ? null : inOrder(new Set(codes), offered));
  },
  write: (value) => storedList(textsOf(value)),
  show: (value, { choices: offered = [] }) =>
    joinedLabels(textsOf(value).map((code) => offered.find((one) => one.code === code)?.label ?? code)),
};

/** Whatever order they are chosen in, the same ones are the same answer. */
export const inOrder = (codes: ReadonlySet<string>, offered: readonly ColumnChoice[]): string[] =>
  offered.flatMap(({ code }) => (codes.has(code) ? [code] : []));

/** Commas between them; semicolons where one of them has a comma in it. */
export const joinedLabels = (labels: readonly string[]): string =>
  labels.join(labels.some((label) => label.includes(',')) ? '; ' : ', ');

/** Longest first, so that a label that begins with another is seen whole. */
const SEPARATOR = /^\s*([,;\n\r\t|/]|$)\s*/;

/**
 * The choices that a text names, by their labels or codes without regard to case, between commas, semicolons,
 * strokes or line ends; null where anything of it is none of them. `Red, dark` is one choice where there is
 * one called so.
 */
export function choicesNamed(text: string, offered: readonly ColumnChoice[]): string[] | null {
  // What people read comes before what is stored, should one choice be called as another is stored.
  const names = [
    ...offered.map(({ code, label }) => ({ name: label.toLowerCase(), code })),
    ...offered.map(({ code }) => ({ name: code.toLowerCase(), code })),
  ]
    .filter(({ name }) => name !== '')
    .sort((a, b) => b.name.length - a.name.length);
  const found = new Set<string>();
  let rest = text.trim();
  while (rest !== '') {
    const small = rest.toLowerCase();
    const named = names.find(({ name }) => small.startsWith(name) && SEPARATOR.test(rest.slice(name.length)));
    if (named === undefined) return null;
    found.add(named.code);
    rest = rest.slice(named.name.length).replace(SEPARATOR, '');
  }
  return inOrder(found, offered);
}
