import { allQuestions, groupsOf, type FormDesign, type TableTarget } from '../design';

/** Strings of a design that are formulas, in which ids are words. */
const FORMULAS = new Set([
  'askWhen',
  'requireWhen',
  'where',
  'expression',
  'must',
  'showWhen',
  'when',
  'named',
  'at',
  'test',
]);
/** What people wrote, where what looks like an id is none. */
const WRITTEN = new Set([
  'key',
  'label',
  'keptAs',
  'hint',
  'title',
  'record',
  'area',
  'text',
  'statement',
  'unit',
  'prefix',
  'code',
  'raw',
]);
/** A text in quotes is left alone; a column of the table that is picked from has `pick_` before it. */
const WORDS = /"(?:\\.|[^"\\])*"|\b(pick_)?([a-z][a-z0-9]+)\b/g;

/** A formula with other ids in place of those named. */
export const withIds = (formula: string, ids: ReadonlyMap<string, string>): string =>
  formula.replace(WORDS, (whole: string, pick: string | undefined, id: string | undefined) =>
    id === undefined ? whole : `${pick ?? ''}${ids.get(id) ?? id}`,
  );

/** Any part of a design with other ids in place of those named: where they stand alone, name a cell, or are read by a formula. */
export function reidentified<T>(part: T, ids: ReadonlyMap<string, string>, at = ''): T {
  if (WRITTEN.has(at)) return part;
  if (at === 'message' && typeof part === 'string')
    return part.replace(/\{[^{}]*\}/g, (value) => withIds(value, ids)) as T & string;
  if (typeof part === 'string')
    return (FORMULAS.has(at) ? withIds(part, ids) : (ids.get(part) ?? part)) as T & string;
  if (Array.isArray(part)) return part.map((one: unknown) => reidentified(one, ids)) as T & unknown[];
  if (typeof part !== 'object' || part === null) return part;
  return Object.fromEntries(
    Object.entries(part).map(([key, value]) => [ids.get(key) ?? key, reidentified<unknown>(value, ids, key)]),
  ) as T & object;
}

/** The same form anew: nothing in it has an id that the first has, and it writes to tables of its own. */
export function freshCopy(
  design: FormDesign,
  newId: () => string,
  tableFor: (table: TableTarget) => TableTarget,
): FormDesign {
  const listed = [
    ...design.sections,
    ...allQuestions(design),
    ...groupsOf(design).flatMap(({ totals }) => totals),
    ...design.checks,
    ...(design.existing ?? []),
    ...design.steps,
    ...(design.further ?? []),
    ...(design.rules ?? []).flatMap((table) => [table, ...table.conditions, ...table.rows]),
  ];
  const copy = reidentified(design, new Map(listed.map(({ id }) => [id, newId()])));
  return {
    ...copy,
    table: tableFor(copy.table),
    sections: copy.sections.map((section) => ({
      ...section,
      questions: section.questions.map((one) =>
        one.kind === 'rows' ? { ...one, table: tableFor(one.table) } : one,
      ),
    })),
  };
}
