import type { Type } from '../expression/type';
import { passes, piecesOf, regionsOf, testOfRegions, type Domain, type Pieces, type Region } from './regions';
import { givesAlike, testOf, weightOf, type Rule, type RuleTable } from './rules';

/** A test of each condition, by its id; those that may be anything are left out. */
export type Where = Readonly<Record<string, string>>;

/** What is found by reading a table of rules. Rows are told by their place, from 0. */
export interface RuleFindings {
  /** What no row fits. */
  readonly gaps: readonly Where[];
  /** More than one row fits, and that may not be. */
  readonly overlaps: readonly { readonly rows: readonly [number, number]; readonly at: Where }[];
  /** Rows that never count, for others do wherever they fit. */
  readonly never: readonly number[];
  /** Rows with a test that could not be looked through. For gaps they count as if that were always so. */
  readonly unknown: readonly number[];
  /** There is more than could be looked through. */
  readonly more: boolean;
}

const MOST_FOUND = 20;
/** Parts looked at: some 10 ms. */
const MOST_STEPS = 20_000;

/** How much is looked at, and how many gaps are wanted. */
interface Budget {
  left: number;
  wanted: number;
}

/** Rows, or regions, as bits. */
type Bits = bigint;
const bit = (at: number): Bits => 1n << BigInt(at);

interface Column {
  readonly id: string;
  readonly type: Type;
  readonly regions: readonly Region[];
  /** Of each region, the rows it passes; `sure` without those whose test could not be looked through. */
  readonly fits: readonly { readonly all: Bits; readonly sure: Bits }[];
  /** Of each row, the regions it surely passes. */
  readonly passed: readonly Bits[];
}

/** Gaps, overlaps and rows that never count. `domains`: of each condition by its id; one that is not there is left out of account. */
export function ruleFindings(table: RuleTable, domains: ReadonlyMap<string, Domain>): RuleFindings {
  const { rows } = table;
  const unknown = new Set<number>();
  const columns = table.conditions.flatMap(({ id }): Column[] => {
    const domain = domains.get(id);
    const tests = rows.map((row) => (domain === undefined ? null : piecesOf(testOf(row, id), domain.type)));
    tests.forEach((test, i) => {
      if (test === null) unknown.add(i);
    });
    return domain === undefined ? [] : [columnOf(id, domain, tests)];
  });
  const budget = { left: MOST_STEPS, wanted: MOST_FOUND + 1 };
  const gaps = rows.length === 0 ? [] : uncovered(columns, (1n << BigInt(rows.length)) - 1n, budget);
  const known = rows.flatMap((_, i) => (unknown.has(i) ? [] : [i]));
  const enough = budget.left <= 0 || gaps.length > MOST_FOUND;
  return {
    gaps: gaps.slice(0, MOST_FOUND),
    overlaps: overlapsIn(table, columns, known).slice(0, MOST_FOUND),
    never: known.filter((row) => isNeverCounted(table, columns, row, known, budget)),
    unknown: [...unknown].sort((a, b) => a - b),
    more: enough,
  };
}

function columnOf(id: string, domain: Domain, tests: readonly (Pieces | null)[]): Column {
  const regions = regionsOf(
    domain,
    tests.filter((one) => one !== null),
  );
  const rowsOf = (region: Region, orUnknown: boolean): Bits =>
    tests.reduce(
      (bits, test, i) => ((test === null ? orUnknown : passes(region, test)) ? bits | bit(i) : bits),
      0n,
    );
  return {
    id,
    type: domain.type,
    regions,
    fits: regions.map((region) => ({ all: rowsOf(region, true), sure: rowsOf(region, false) })),
    passed: tests.map((test) =>
      regions.reduce((bits, region, i) => (test !== null && passes(region, test) ? bits | bit(i) : bits), 0n),
    ),
  };
}

/** The parts of a column that the same of these rows fit, together. */
function partsOf({ fits, regions }: Column, alive: Bits): Map<Bits, Region[]> {
  const parts = new Map<Bits, Region[]>();
  fits.forEach(({ all }, i) => {
    const [here, region] = [all & alive, regions[i]];
    if (region !== undefined) parts.set(here, [...(parts.get(here) ?? []), region]);
  });
  return parts;
}

/**
 * Where none of these rows fits. Column by column, the parts that the same rows fit are looked at together;
 * where nothing is left to fit, the rest may be anything.
 */
function uncovered(columns: readonly Column[], alive: Bits, budget: Budget): Where[] {
  if (budget.wanted <= 0) return [];
  if (alive === 0n) return (budget.wanted--, [{}]);
  const [column, ...rest] = columns;
  if (column === undefined || budget.left-- <= 0) return [];
  // A row that may be anything from here on leaves no gap.
  if (hasAny(columns, alive)) return [];
  return [...partsOf(column, alive)].flatMap(([here, regions]) =>
    uncovered(rest, here, budget).map((where) => {
      const test = testOfRegions(regions, column.regions, column.type);
      return test === '' ? where : { [column.id]: test, ...where };
    }),
  );
}

/** Whether one of these rows fits whatever these columns hold. */
const hasAny = (columns: readonly Column[], alive: Bits): boolean =>
  columns.reduce((rows, { fits }) => fits.reduce((left, { all }) => left & all, rows), alive) !== 0n;

function overlapsIn(
  table: RuleTable,
  columns: readonly Column[],
  known: readonly number[],
): RuleFindings['overlaps'] {
  if (table.hit !== 'U' && table.hit !== 'A') return [];
  const pairs = known.flatMap((one, i) => known.slice(i + 1).map((other): [number, number] => [one, other]));
  return pairs.flatMap(([one, other]) => {
    const [a, b] = [table.rows[one], table.rows[other]];
    if (a === undefined || b === undefined || (table.hit === 'A' && givesAlike(a, b))) return [];
    const shared = columns.map((column) => ({
      column,
      bits: (column.passed[one] ?? 0n) & (column.passed[other] ?? 0n),
    }));
    if (shared.some(({ bits }) => bits === 0n)) return [];
    const at = shared.flatMap(({ column, bits }) => {
      const regions = column.regions.filter((_, i) => (bits & bit(i)) !== 0n);
      const test = testOfRegions(regions, column.regions, column.type);
      return test === '' ? [] : [[column.id, test] as const];
    });
    return [{ rows: [one, other] as const, at: Object.fromEntries(at) }];
  });
}

/** Whether others count wherever a row fits, or it fits nowhere. */
function isNeverCounted(
  table: RuleTable,
  columns: readonly Column[],
  row: number,
  known: readonly number[],
  budget: Budget,
): boolean {
  const own = columns.map((column) => {
    const kept = column.regions.flatMap((_, i) => (((column.passed[row] ?? 0n) & bit(i)) !== 0n ? [i] : []));
    return {
      ...column,
      regions: kept.flatMap((i) => column.regions[i] ?? []),
      fits: kept.flatMap((i) => {
        const sure = column.fits[i]?.sure;
        return sure === undefined ? [] : [{ all: sure, sure }];
      }),
    };
  });
  if (own.some(({ regions }) => regions.length === 0)) return true;
  const before = known
    .filter((other) => countsBefore(table, other, row))
    .reduce((bits, other) => bits | bit(other), 0n);
  if (before === 0n) return false;
  budget.wanted = 1;
  const gaps = uncovered(own, before, budget);
  // What could not be looked through to its end is not said to be so.
  return gaps.length === 0 && budget.left > 0;
}

function countsBefore({ hit, rows }: RuleTable, other: number, row: number): boolean {
  const [a, b] = [rows[other], rows[row]];
  if (a === undefined || b === undefined || other === row) return false;
  if (hit === 'F') return other < row;
  if (hit !== 'P') return false;
  return weightOf(a) > weightOf(b) || (weightOf(a) === weightOf(b) && other < row);
}

/** A row that fits what none does. */
export const rowFor = (id: string, where: Where): Rule => ({
  id,
  cells: Object.entries(where).map(([condition, test]) => ({ condition, test })),
  gives: [],
});
