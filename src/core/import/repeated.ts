import type { CellAt, DetectedKind, RepeatedGroup } from './detection';
import { canTell, keyScore, type KeyColumn } from './keys';
import type { SheetProfile } from './sheet-profile';

/** How improbable it must be that one column depends on another by accident, and all of a group do, as powers of ten. */
const [ALONE, TOGETHER] = [-2, -5];
/** The part of the repetitions that may break it: a changed telephone number, a slip of the pen. */
const SLIPS = 0.05;
/** How many rows are looked at before all of them are. */
const FIRST = 5_000;
const DEPENDENT: ReadonlySet<DetectedKind> = new Set([
  'text',
  'whole',
  'decimal',
  'money',
  'choice',
  'yes-no',
  'e-mail',
  'phone',
  'web-address',
]);

/** The rows in which a dependency does not hold, by index, and how likely it holds in the others by accident. */
interface Held {
  readonly exceptions: readonly number[];
  readonly chance: number;
}

interface Dependency {
  readonly on: KeyColumn;
  readonly columns: readonly (Held & { readonly column: KeyColumn })[];
}

/**
 * Columns whose values come again together: wherever the supplier is the same, so are telephone and town.
 * They describe something of its own, which deserves a table. What holds by chance is left out. `mayName`
 * says which columns may be the one that the others depend on.
 */
export function repeatedGroups(
  sheet: SheetProfile,
  columns: readonly KeyColumn[],
  mayName: (column: KeyColumn) => boolean,
): RepeatedGroup[] {
  const judged = columns.filter(({ distinct, filled }) => distinct > 1 && filled > sheet.rows / 2);
  const dependencies = judged
    .filter((column) => mayDecide(column) && mayName(column))
    .map((on): Dependency => ({
      on,
      columns: judged.flatMap((column) => {
        const held =
          column === on || !DEPENDENT.has(column.kind) || column.distinct > on.distinct * 1.5 + 2
            ? null
            : dependsOn(sheet, on, column);
        return held === null ? [] : [{ column, ...held }];
      }),
    }))
    .filter((one) => one.columns.length > 0);
  const taken = new Set<KeyColumn>();
  return [...dependencies]
    .sort((a, b) => b.columns.length - a.columns.length || keyScore(b.on) - keyScore(a.on))
    .flatMap((one) => {
      const free = one.columns.filter(({ column }) => !taken.has(column));
      if (taken.has(one.on) || free.reduce((sum, { chance }) => sum + chance, 0) > TOGETHER) return [];
      for (const column of [one.on, ...free.map(({ column: other }) => other)]) taken.add(column);
      return [groupOf(sheet, one.on, free)];
    });
}

const mayDecide = (column: KeyColumn): boolean =>
  (canTell(column) || column.kind === 'choice') &&
  column.kind !== 'phone' &&
  column.distinct <= column.filled * 0.75;

/** Null when it does not hold, or could by chance. */
function dependsOn(sheet: SheetProfile, on: KeyColumn, column: KeyColumn): Held | null {
  const [keys, values] = [sheet.codes(on.at), sheet.codes(column.at)];
  // Most columns do not depend on one another, and their first rows show it.
  if (keys.length > FIRST && breaksOf(keys.subarray(0, FIRST), values, on.distinct) === null) return null;
  const breaks = breaksOf(keys, values, on.distinct);
  if (breaks === null) return null;
  const { exceptions, repeats, rows } = breaks;
  if (exceptions.length > repeats * SLIPS || repeats < 3) return null;
  const alike = countsOf(keys, values, column.distinct).reduce((sum, n) => sum + (n / rows) ** 2, 0);
  // Two rows taken at random agree with probability `alike`; every repetition that agrees makes chance less likely.
  const chance = (repeats - 10 * exceptions.length) * Math.log10(alike);
  return chance <= ALONE ? { exceptions, chance } : null;
}

/**
 * The rows in which a key does not have its usual value, how often a key came again, and in how many rows
 * both stand; null when there are too many.
 */
function breaksOf(
  keys: Int32Array,
  values: Int32Array,
  count: number,
): { exceptions: number[]; repeats: number; rows: number } | null {
  const usual = usualValues(keys, values, count);
  const seen = new Uint8Array(count);
  const exceptions: number[] = [];
  let [repeats, rows] = [0, 0];
  for (let row = 0; row < keys.length; row++) {
    const [key, value] = [keys[row] ?? -1, values[row] ?? -1];
    if (key < 0 || value < 0) continue;
    rows++;
    if (seen[key] === 1) repeats++;
    seen[key] = 1;
    if (usual[key] !== value && exceptions.push(row) > repeats * SLIPS + 20) return null;
  }
  return { exceptions, repeats, rows };
}

/** How often each value stands beside a key. */
function countsOf(keys: Int32Array, values: Int32Array, distinct: number): Float64Array {
  const counts = new Float64Array(distinct);
  for (let row = 0; row < keys.length; row++) {
    const value = (keys[row] ?? -1) < 0 ? -1 : (values[row] ?? -1);
    if (value >= 0) counts[value] = (counts[value] ?? 0) + 1;
  }
  return counts;
}

/** The value most rows of each key have, by voting: one that has the majority always wins. */
function usualValues(keys: Int32Array, values: Int32Array, count: number): Int32Array {
  const [usual, votes] = [new Int32Array(count).fill(-1), new Int32Array(count)];
  for (let row = 0; row < keys.length; row++) {
    const [key, value] = [keys[row] ?? -1, values[row] ?? -1];
    if (key < 0 || value < 0) continue;
    if (votes[key] === 0) usual[key] = value;
    votes[key] = (votes[key] ?? 0) + (usual[key] === value ? 1 : -1);
  }
  return usual;
}

function groupOf(sheet: SheetProfile, on: KeyColumn, found: Dependency['columns']): RepeatedGroup {
  const cells = found.flatMap(({ exceptions, column }) =>
    exceptions.map((row): CellAt => ({ row: sheet.rowNumber(row), text: column.name })),
  );
  const columns = [...found].sort((a, b) => a.column.at - b.column.at).map(({ column }) => column.name);
  return {
    by: on.name,
    columns,
    records: on.distinct,
    rows: on.filled,
    exceptions: cells.length,
    exceptionCells: cells.slice(0, 20),
  };
}
