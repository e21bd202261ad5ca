import { groupsOf, lineNumbers, questionsOf, rowLetter, type FormDesign } from './design';
import type { Issue } from '../kernel/issue';

/** The number by which everyone refers to a place of the sheet: `3`, or `2b` for the second row of line 2. */
export function lineOf(
  design: FormDesign,
  rowIds: (group: string) => readonly string[],
  path: Issue['path'],
): string {
  const [first, row] = path.map(String);
  const number = lineNumbers(design).get(first ?? '') ?? '';
  if (row === undefined) return number;
  const at = rowIds(first ?? '').indexOf(row);
  return at < 0 ? number : number + rowLetter(at);
}

export function labelOf(design: FormDesign, id: string): string {
  const inner = groupsOf(design).flatMap((group) => [...group.columns, ...group.totals]);
  return [...questionsOf(design), ...inner].find((one) => one.id === id)?.label ?? '';
}
