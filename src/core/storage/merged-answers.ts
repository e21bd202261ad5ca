import { isBlank, type AnswerRow, type Answers, type Raw } from '../form/answers';
import { mergedFields, mergedList, type Merged } from '../kernel/merge';

/** The place of an answer, `[question]` or `[group, row, question]`, or that of a whole row, `[group, row]`. */
export type AnswerPlace = readonly string[];

/**
 * Answers that change a record, put together with what others made of it since: `base` is how the record was, `theirs` how it is now. What only one side
 * changed is as they made it. Where both changed the same answer differently, or one took out a row that the other changed, mine stands and the place is named.
 */
export function mergedAnswers(
  base: Answers,
  mine: Answers,
  theirs: Answers,
): { answers: Answers; clashes: AnswerPlace[] } {
  const merged = mergedFields(filled(base), filled(mine), filled(theirs), {
    values: mergedFields,
    rows: mergedRows,
    reasons: (_base, own) => ({ value: own, clashes: [] }),
  });
  return { answers: merged.value, clashes: merged.clashes.map(placeOf) };
}

const mergedRows = (
  base: Answers['rows'],
  mine: Answers['rows'],
  theirs: Answers['rows'],
): Merged<Answers['rows']> => {
  const value: Record<string, readonly AnswerRow[]> = {};
  const clashes: (readonly string[])[] = [];
  for (const group of new Set([base, mine, theirs].flatMap((one) => Object.keys(one)))) {
    const merged = mergedList<AnswerRow>(
      base[group] ?? [],
      mine[group] ?? [],
      theirs[group] ?? [],
      ({ id }) => id,
      (was, own, other) => mergedFields(was, own, other, { cells: mergedFields }),
    );
    value[group] = merged.value;
    clashes.push(...merged.clashes.map((path) => [group, ...path]));
  }
  return { value, clashes };
};

/** `values, question` · `rows, group, row` · `rows, group, row, cells, question`. */
const placeOf = ([, ...path]: readonly string[]): AnswerPlace => path.filter((_, i) => i !== 2);

/** Without what is blank, however that came about, so that two ways of being empty are one. */
const filled = (answers: Answers): Answers => ({
  ...answers,
  values: filledCells(answers.values),
  rows: Object.fromEntries(
    Object.entries(answers.rows).map(([group, rows]) => [
      group,
      rows.map(({ id, cells }) => ({ id, cells: filledCells(cells) })),
    ]),
  ),
});
const filledCells = (cells: Readonly<Record<string, Raw>>): Readonly<Record<string, Raw>> =>
  Object.fromEntries(Object.entries(cells).filter(([, raw]) => !isBlank(raw)));

/** Answers in which one place is as it is in others: a row that is not there goes, one that is missing comes at the end. */
export function withPlaceOf(to: Answers, from: Answers, place: AnswerPlace): Answers {
  const [first = '', row, question] = place;
  if (row === undefined) return { ...to, values: { ...to.values, [first]: from.values[first] ?? null } };
  const other = (from.rows[first] ?? []).find(({ id }) => id === row);
  const rows = to.rows[first] ?? [];
  const there = rows.some(({ id }) => id === row);
  const changed =
    question === undefined
      ? other === undefined
        ? rows.filter(({ id }) => id !== row)
        : there
          ? rows.map((one) => (one.id === row ? other : one))
          : [...rows, other]
      : rows.map((one) =>
          one.id === row
            ? { ...one, cells: { ...one.cells, [question]: other?.cells[question] ?? null } }
            : one,
        );
  return { ...to, rows: { ...to.rows, [first]: changed } };
}

/** What a change goes on from once it has met the record as it is now: that, but as before where it is still to be asked. */
export const baseAfter = (base: Answers, theirs: Answers, clashes: readonly AnswerPlace[]): Answers =>
  clashes.reduce((now, place) => withPlaceOf(now, base, place), theirs);
