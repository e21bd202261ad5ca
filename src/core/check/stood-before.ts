import { same } from '../expression/value';
import type { Sheet } from '../form/sheet';
import type { Issue } from '../kernel/issue';
import { sheetIssues } from './sheet-issues';

/** Whether something is wrong in a sheet that was so before, with nothing changed that it depends on. */
export type StoodBefore = (sheet: Sheet, one: Issue) => boolean;

/**
 * Whoever changes a record need not mend what was wrong with it before and what they leave alone: a day that
 * has passed since, an answer that was not asked for when it was made. `was` is the sheet of the record as it
 * is; null where a new one is made, of which nothing stood before.
 */
export function stoodBefore(was: Sheet | null): StoodBefore {
  if (was === null) return () => false;
  const before = new Set(sheetIssues(was).map(nameOf));
  return (sheet, one) => before.has(nameOf(one)) && isAsItWas(sheet, was, one);
}

const nameOf = ({ code, path, facts }: Issue): string => JSON.stringify([code, path, facts['check'] ?? '']);

function isAsItWas(sheet: Sheet, was: Sheet, { path, facts }: Issue): boolean {
  const [first = '', row, question] = path.map(String);
  const check = facts['check'];
  if (typeof check === 'string') {
    const formula = sheet.form.formulas.find(({ id }) => id === check);
    const inRow =
      formula?.group != null && !formula.wide && row !== undefined ? ([formula.group, row] as const) : null;
    return formula !== undefined && [...formula.reads].every((id) => isSameRead(sheet, was, id, inRow));
  }
  if (row === undefined || question === undefined)
    return sheet.form.groups.has(first)
      ? hasSameRows(sheet, was, first)
      : sheet.raw([first]) === was.raw([first]);
  if (sheet.form.groups.has(question)) return hasSameRows(sheet, was, question, row);
  return sheet.raw([first, row, question]) === was.raw([first, row, question]);
}

/** What a check reads, of one row where it is asked for each, or of all. */
function isSameRead(
  sheet: Sheet,
  was: Sheet,
  id: string,
  row: readonly [group: string, row: string] | null,
): boolean {
  if (sheet.form.groups.has(id)) return hasSameRows(sheet, was, id);
  const group = sheet.form.homes.get(id) ?? null;
  if (group === null) return same(sheet.value([id]), was.value([id]));
  if (row !== null) {
    const [now, before] = [sheet, was].map((one) => one.value(one.placeFrom(id, row)));
    return same(now ?? null, before ?? null);
  }
  return (
    hasSameRows(sheet, was, group) &&
    sheet
      .filledRows(group)
      .every((one) => same(sheet.value([group, one.id, id]), was.value([group, one.id, id])))
  );
}

/** With `of`, in that row of another group. */
function hasSameRows(sheet: Sheet, was: Sheet, group: string, of?: string): boolean {
  const [now, before] = [sheet, was].map((one) => one.filledRows(group, of).map(({ id }) => id));
  return now?.join() === before?.join();
}
