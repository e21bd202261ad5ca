import { beginning, textOf, tidy, type Cell, type Numbered } from './cell';
import type { ColumnFigures } from './column-figures';
import type { TotalsRow } from './detection';
import { numberShape, readNumber } from './formats/number';

/** A row of figures under a table says so, in the language of whoever made it. */
const SAYS =
  /^(?:(?:grand |sub-?|overall )?totals?\b.{0,24}|sum|summe|gesamt(?:summe)?|insgesamt|zwischensumme|average|mean|durchschnitt|total g[eé]n[eé]ral|somme|moyenne|suma|totale|somma)\s*:?$/i;
/** With fewer rows above it, sums come about by accident. */
const FEWEST = 2;

interface Above {
  readonly columns: readonly ColumnFigures[];
  readonly names: readonly string[];
  readonly rows: number;
}

/**
 * Whether the last row of a sheet adds up those above it. Either it says so and bears it out, by a sum that
 * is right or by figures among blanks; or it says nothing, and holds nothing but numbers of which one at
 * least is the sum of its column, where all other rows begin with something.
 */
export function totalsRow({ number, row }: Numbered, { columns, names, rows }: Above): TotalsRow | null {
  if (rows < FEWEST) return null;
  const cells = row
    .map((cell, at) => ({ text: tidy(textOf(cell)), at, cell }))
    .filter(({ text }) => text !== '');
  const says = cells.some(({ text, at }) => SAYS.test(text) && columns[at]?.values?.has(text) !== true);
  const numbers = cells.filter(({ text }) => numberShape(text) !== null);
  const sums = numbers.filter(({ cell, at }) => isSum(cell, columns[at])).length;
  const blank = columns.flatMap(({ filled }, at) =>
    filled > 0 && tidy(textOf(row[at])) === '' ? [{ at, always: filled === rows }] : [],
  );
  const first = columns.findIndex(({ filled }) => filled > 0);
  const found = says
    ? sums > 0 || (numbers.length > 0 && blank.length >= cells.length)
    : rows > FEWEST &&
      sums > 0 &&
      numbers.length === cells.length &&
      blank.some(({ at, always }) => at === first && always);
  return found
    ? { row: number, text: beginning(row), sums, blank: blank.map(({ at }) => names[at] ?? '') }
    : null;
}

/** Numbers are added up as floating-point numbers, and people round. */
const NEAR = 1e-9;

function isSum(cell: Cell, column: ColumnFigures | undefined): boolean {
  const shape = numberShape(tidy(textOf(cell)));
  if (shape === null || column === undefined) return false;
  return (['.', ','] as const).some((sign) => {
    const read = typeof cell === 'string' || sign === '.' ? readNumber(shape, sign) : null;
    const sum = column.sums[sign];
    return read !== null && sum !== 0 && Math.abs(Number(read) - sum) <= 0.0051 + Math.abs(sum) * NEAR;
  });
}
