import { fold, tidy } from './cell';
import { hashOf } from './hash';
import type { CellAt, ColumnRef, DetectedKind, DetectedRelation } from './detection';
import { distinctOf, placeIn } from './growing';
import { canTell, stemsOf, type KeyColumn } from './keys';
import type { SheetProfile } from './sheet-profile';

/** A column by which the rows of a sheet, or the records of a table there is, can be named. */
export interface Target {
  readonly ref: ColumnRef;
  readonly kind: DetectedKind;
  /** Its values without case, spaces and accents, as hashes in order. */
  readonly folded: Float64Array;
  /** The same as they are written; hardly ever asked for. */
  readonly exact: () => Float64Array;
  /** The sheet it stands in, and which of them that is; null for a table. */
  readonly sheet: SheetProfile | null;
  readonly order: number;
  readonly at: number;
  readonly table: DetectedRelation['table'];
}

/** A column that may name records of another sheet or table. */
export interface Candidate {
  readonly sheet: SheetProfile;
  readonly order: number;
  readonly column: KeyColumn;
}

const NAMING: ReadonlySet<DetectedKind> = new Set(['text', 'whole', 'choice', 'e-mail']);
/** The part of the different values that must be found, with a heading that says so and without. */
const [HINTED, UNHINTED] = [0.5, 0.8];
const GENERIC = new Set([
  'name',
  'code',
  'id',
  'no',
  'nr',
  'number',
  'key',
  'title',
  'ref',
  'reference',
  'description',
  'type',
  'date',
  'column',
]);

export const isTarget = (column: KeyColumn): boolean =>
  canTell(column) && column.kind !== 'phone' && column.distinct === column.filled && column.filled > 1;
export const isCandidate = (column: KeyColumn): boolean =>
  NAMING.has(column.kind) && column.filled > 0 && column.longest <= 80;

/** For each candidate the target that holds most of its values, if any holds enough of them to be more than chance. */
export function relationsAmong(
  candidates: readonly Candidate[],
  targets: readonly Target[],
): DetectedRelation[] {
  return candidates.flatMap((candidate) => {
    const found = targets.flatMap((target) => scored(candidate, target)).sort((a, b) => b.score - a.score)[0];
    return found === undefined ? [] : [relationOf(candidate, found.target, found.covered)];
  });
}

interface Scored {
  readonly target: Target;
  readonly covered: number;
  readonly score: number;
}

function scored({ sheet, order, column }: Candidate, target: Target): Scored[] {
  const own = target.sheet === sheet;
  if (
    (own && target.at === column.at) ||
    (target.kind === 'whole') !== (column.kind === 'whole') ||
    (target.kind === 'e-mail') !== (column.kind === 'e-mail')
  )
    return [];
  // A sheet whose own key is that of a table holds the same things; its key does not refer to them.
  if (target.table !== null && column.distinct === column.filled) return [];
  const hint = isHinted(column.name, target.ref, own);
  const values = sheet.distinct(column.at);
  // Numbers lie among other numbers by accident, and so do values of the same sheet; only the heading makes a relation of it.
  if (!hint && (column.kind === 'whole' || own || values.length < 3 || isLoneKey(column, target))) return [];
  if (isKeyOfEqualRank({ sheet, order, column }, target, values)) return [];
  const wanted = hint ? HINTED : UNHINTED;
  if (sampleFound(values, target.folded) < wanted - 0.25) return [];
  const covered = countFound(values, target.folded);
  if (covered < values.length * wanted || covered === 0) return [];
  return [
    {
      target,
      covered,
      score:
        covered / values.length +
        (hint ? 0.5 : 0) -
        target.folded.length * 1e-9 -
        (target.table === null ? 0 : 0.01),
    },
  ];
}

/** Two columns that each tell every row are one thing in two sheets only when they are headed alike. */
const isLoneKey = (column: KeyColumn, { ref }: Target): boolean =>
  column.distinct === column.filled && fold(column.name) !== fold(ref.column);

/** Of two keys with the same values the one in the later sheet refers to the earlier; the other way round would be a circle. */
function isKeyOfEqualRank(
  { sheet, order, column }: Candidate,
  target: Target,
  values: Float64Array,
): boolean {
  if (column.distinct !== column.filled || target.sheet === null || target.sheet === sheet) return false;
  return (
    values.length > target.folded.length || (values.length === target.folded.length && order < target.order)
  );
}

/**
 * The heading names the other sheet (`Bed` and Beds, `Bed code` and Beds.Code), or is the other's own, unless
 * any sheet has one like it.
 */
export function isHinted(heading: string, to: ColumnRef, own: boolean): boolean {
  const [mine, sheet, column] = [stemsOf(heading), stemsOf(to.sheet), stemsOf(to.column)];
  if (own) return /parent|part of|belongs to|within|reports to|manager|übergeordnet/i.test(heading);
  if (sheet.length > 0 && sheet.every((stem) => mine.includes(stem))) return true;
  if (sheet.some((stem) => stem.length > 3 && !GENERIC.has(stem) && mine.includes(stem))) return true;
  return mine.join(' ') === column.join(' ') && mine.some((stem) => !GENERIC.has(stem));
}

const SAMPLE = 64;

function sampleFound(values: Float64Array, among: Float64Array): number {
  const step = Math.max(1, Math.floor(values.length / SAMPLE));
  let [looked, found] = [0, 0];
  for (let i = 0; i < values.length; i += step) {
    looked++;
    if (placeIn(among, values[i] ?? 0) >= 0) found++;
  }
  return looked === 0 ? 0 : found / looked;
}

/** Both are in order, so one pass does. */
function countFound(values: Float64Array, among: Float64Array): number {
  let [found, j] = [0, 0];
  for (const value of values) {
    while (j < among.length && (among[j] ?? 0) < value) j++;
    if (among[j] === value) found++;
  }
  return found;
}

const MISSES = 20;

function relationOf({ sheet, column }: Candidate, target: Target, covered: number): DetectedRelation {
  const misses: CellAt[] = [];
  const [missed, bent] = [new Set<number>(), new Set<number>()];
  const written = target.exact();
  const values = sheet.distinct(column.at);
  sheet.columns[column.at]?.eachValue((exact, folded, row) => {
    if (missed.has(folded) || placeIn(values, folded) < 0) return;
    if (placeIn(target.folded, folded) >= 0) {
      if (placeIn(written, exact) < 0) bent.add(folded);
    } else if (missed.add(folded).size <= MISSES) misses.push({ row: sheet.rowNumber(row), text: '' });
  });
  return {
    from: { sheet: sheet.name, column: column.name },
    to: target.ref,
    covered,
    missed: missed.size,
    misses,
    tolerant: bent.size,
    alongWith: null,
    table: target.table,
  };
}

/** The key of a table there is, as something that sheets may refer to. */
export function tableTarget(
  ref: ColumnRef,
  kind: DetectedKind,
  table: NonNullable<DetectedRelation['table']>,
  values: readonly string[],
): Target {
  const hashes = (of: (text: string) => string) =>
    distinctOf(Float64Array.from(values, (value) => hashOf(of(tidy(value)))));
  return {
    ref,
    kind,
    table,
    sheet: null,
    order: -1,
    at: -1,
    folded: hashes(fold),
    exact: () => hashes((text) => text),
  };
}
