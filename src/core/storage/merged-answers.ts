import { isBlank, type AnswerRow, type Answers, type Raw } from '../form/answers';
import { groupsOf, type FormDesign } from '../form/design';
import { mergedFields, mergedList, type Merged } from '../kernel/merge';

/** The place of an answer, `[question]` or `[group, row, question]`, or that of a whole row, `[group, row]`. */
export type AnswerPlace = readonly string[];

/**
 * Answers that change a record, put together with what others made of it since: `base` is how the record was,
 * `theirs` how it is now. What only one side changed is as they made it. Where both changed the same answer
 * differently, or one took out a row that the other changed, mine stands and the place is named.
 */
export function mergedAnswers(
  design: FormDesign,
  base: Answers,
  mine: Answers,
  theirs: Answers,
): { answers: Answers; clashes: AnswerPlace[] } {
  const merged = mergedFields(nested(design, base), nested(design, mine), nested(design, theirs), {
    values: mergedFields,
    rows: mergedGroups,
    reasons: (_base, own) => ({ value: own, clashes: [] }),
  });
  return {
    answers: { ...merged.value, rows: flat(design, merged.value.rows) },
    clashes: merged.clashes.map(placeOf),
  };
}

/** A row with those that stand in it: they come and go with it, and whoever changes one of them has changed it. */
interface NestedRow extends AnswerRow {
  readonly inner: NestedRows;
}
type NestedRows = Readonly<Record<string, readonly NestedRow[]>>;

const mergedGroups = (base: NestedRows, mine: NestedRows, theirs: NestedRows): Merged<NestedRows> => {
  const value: Record<string, readonly NestedRow[]> = {};
  const clashes: (readonly string[])[] = [];
  for (const group of new Set([base, mine, theirs].flatMap((one) => Object.keys(one)))) {
    const merged = mergedList<NestedRow>(
      base[group] ?? [],
      mine[group] ?? [],
      theirs[group] ?? [],
      ({ id }) => id,
      (was, own, other) => mergedFields(was, own, other, { cells: mergedFields, inner: mergedGroups }),
    );
    value[group] = merged.value;
    clashes.push(...merged.clashes.map((path) => [group, ...path]));
  }
  return { value, clashes };
};

/** Without what is blank, however that came about, so that two ways of being empty are one; and each row with those that stand in it. */
function nested(
  design: FormDesign,
  { values, rows, reasons }: Answers,
): Omit<Answers, 'rows'> & { rows: NestedRows } {
  const within = groupsOf(design).filter((group) => group.within !== undefined);
  const rowsOf = (group: string, of: string | undefined): NestedRow[] =>
    (rows[group] ?? [])
      .filter((row) => row.of === of)
      .map((row) => ({
        ...row,
        cells: filledCells(row.cells),
        inner: Object.fromEntries(
          within
            .filter((one) => one.within === group)
            .map(({ id }) => [id, rowsOf(id, row.id)] as const)
            .filter(([, list]) => list.length > 0),
        ),
      }));
  const outside = Object.keys(rows).filter((group) => !within.some(({ id }) => id === group));
  return {
    values: filledCells(values),
    rows: Object.fromEntries(outside.map((group) => [group, rowsOf(group, undefined)])),
    reasons,
  };
}

function flat(design: FormDesign, rows: NestedRows): Answers['rows'] {
  const all: Record<string, AnswerRow[]> = {};
  const add = (groups: NestedRows): void => {
    for (const [group, list] of Object.entries(groups))
      for (const { inner, ...row } of list) {
        (all[group] ??= []).push(row);
        add(inner);
      }
  };
  for (const group of Object.keys(rows)) all[group] = [];
  for (const { id, within } of groupsOf(design)) if (within !== undefined) all[id] = [];
  add(rows);
  return all;
}

/**
 * `values, question` · `rows, group, row` · `rows, group, row, cells, question`; of what stands in a row,
 * `inner` and the same again behind that.
 */
function placeOf([first = '', ...path]: readonly string[]): AnswerPlace {
  const inner = path.indexOf('inner');
  if (inner === 2) return placeOf(['rows', ...path.slice(3)]);
  return first === 'values' ? path : path.filter((_, i) => i !== 2);
}

const filledCells = (cells: Readonly<Record<string, Raw>>): Readonly<Record<string, Raw>> =>
  Object.fromEntries(Object.entries(cells).filter(([, raw]) => !isBlank(raw)));

/**
 * Answers in which one place is as it is in others: a row that is not there goes, and one that is missing
 * comes at the end, with those that stand in it.
 */
export function withPlaceOf(design: FormDesign, to: Answers, from: Answers, place: AnswerPlace): Answers {
  const [first = '', row, question] = place;
  if (row === undefined) return { ...to, values: { ...to.values, [first]: from.values[first] ?? null } };
  const other = (from.rows[first] ?? []).find(({ id }) => id === row);
  const rows = to.rows[first] ?? [];
  if (question !== undefined) {
    const cells = { [question]: other?.cells[question] ?? null };
    const changed = rows.map((one) => (one.id === row ? { ...one, cells: { ...one.cells, ...cells } } : one));
    return { ...to, rows: { ...to.rows, [first]: changed } };
  }
  const there = rows.some(({ id }) => id === row);
  const changed =
    other === undefined
      ? rows.filter(({ id }) => id !== row)
      : there
        ? rows.map((one) => (one.id === row ? other : one))
        : [...rows, other];
  const inner = groupsOf(design).filter(({ within }) => within === first);
  const innerRows = inner.map(({ id }) => {
    const [own, others] = [to.rows[id] ?? [], from.rows[id] ?? []];
    return [id, [...own.filter(({ of }) => of !== row), ...others.filter(({ of }) => of === row)]] as const;
  });
  return { ...to, rows: { ...to.rows, [first]: changed, ...Object.fromEntries(innerRows) } };
}

/** What a change goes on from once it has met the record as it is now: that, but as before where it is still to be asked. */
export const baseAfter = (
  design: FormDesign,
  base: Answers,
  theirs: Answers,
  clashes: readonly AnswerPlace[],
): Answers => clashes.reduce((now, place) => withPlaceOf(design, now, base, place), theirs);
