import type { AnswerRow } from './answers';
import { groupsOf, outerOf, questionsOf, type FormDesign } from './design';
import { lineNumbers, rowLetter } from './numbered-lines';
import type { Issue } from '../kernel/issue';

type Rows = (group: string) => readonly Pick<AnswerRow, 'id' | 'of'>[];

/**
 * The number by which everyone refers to a place of the sheet: `3`, `2b` for the second row of line 2, or
 * `2b.1` for the first that stands in that one.
 */
export function lineOf(design: FormDesign, rows: Rows, path: Issue['path']): string {
  const [first = '', row] = path.map(String);
  const number = lineNumbers(design).get(first) ?? '';
  return row === undefined ? number : number + rowName(design, rows, first, row);
}

/** `b`, or `b.1` for the first that stands in that row; nothing for a row that is not there. */
export function rowName(design: FormDesign, rows: Rows, group: string, row: string): string {
  const all = rows(group);
  const known = all.find(({ id }) => id === row);
  if (known === undefined) return '';
  const at = all.filter(({ of }) => of === known.of).indexOf(known);
  const own = groupsOf(design).find(({ id }) => id === group);
  const outer = own === undefined ? null : outerOf(design, own);
  return outer === null || known.of === undefined
    ? rowLetter(at)
    : `${rowName(design, rows, outer.id, known.of)}.${at + 1}`;
}

export function labelOf(design: FormDesign, id: string): string {
  const inner = groupsOf(design).flatMap((group) => [...group.columns, ...group.totals]);
  return [...questionsOf(design), ...inner].find((one) => one.id === id)?.label ?? '';
}
