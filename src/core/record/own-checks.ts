import type { Check, TableCheck } from '../check/check';
import { checksOf, isTimeless, type ReadCheck } from '../check/table-checks';
import { compile, type Closure } from '../expression/compile';
import type { World } from '../expression/functions/builtin';
import type { Expression } from '../expression/tree';
import type { Value } from '../expression/value';
import { issue, type Issue } from '../kernel/issue';
import type { ColumnValue } from '../storage/rows-to-write';
import { kinds } from '../table/kinds/list';
import type { Column, Table } from '../table/model';
import { worldAt } from '../workspace';
import { columnIn, columnValue, type Values } from './column-value';
import type { StagedRecord } from './staged';

const closures = new WeakMap<Expression, Closure>();

const alone = new WeakMap<Table, ReadCheck[]>();

/** The checks of a table that can be told from a record alone and at any time: in the browser, while it is typed. */
export function toldAlone(table: Table): readonly ReadCheck[] {
  const found =
    alone.get(table) ??
    checksOf(table, new Map([[table.id, table]])).conditions.filter(
      ({ isOwn, tree }) => isOwn && isTimeless(tree),
    );
  alone.set(table, found);
  return found;
}

/** Those of them that a staged record breaks: all of a new one, of one that is changed what reads a column that was typed in. */
export function brokenAlone(table: Table, staged: StagedRecord): Check[] {
  if (staged.t === 'remove') return [];
  const cells = staged.t === 'add' ? staged.typed : { ...staged.beside, ...staged.before, ...staged.typed };
  const values = Object.fromEntries(Object.entries(cells).map(([id, { raw }]) => [id, raw]));
  const known = (id: string): boolean =>
    id in cells || (staged.t === 'add' && columnIn(table, id)?.default === '');
  return toldAlone(table)
    .filter(({ reads }) => staged.t === 'add' || [...reads].some((id) => id in staged.typed))
    .filter(({ reads }) => [...reads].every(known))
    .filter((one) => breaksOwn(one, table, values, NOWHEN))
    .map(({ check }) => check);
}
/** Of a world that nothing is asked about. */
const NOWHEN: World = worldAt({ workdays: [], holidays: [] }, '2000-01-01T00:00:00');

/**
 * Whether a record with these values breaks a check that reads nothing else. What cannot be told, because
 * something it reads is empty, breaks nothing.
 */
export function breaksOwn({ tree }: ReadCheck, table: Table, values: Values, world: World): boolean {
  const run = closures.get(tree) ?? compile(tree);
  closures.set(tree, run);
  const read = (id: string): Value => {
    const column = columnIn(table, id);
    return column === undefined ? null : valueOf(column, values[id] ?? null);
  };
  return run({ ...world, read, column: () => [], gaveUp: () => undefined }) === false;
}

/** What a column holds, as expressions know it; of a record it refers to, which one. */
function valueOf(column: Column, raw: ColumnValue): Value {
  const held = columnValue(column, raw);
  if (!held.ok || held.value === null) return null;
  if (column.kind === 'reference') return { id: String(held.value), title: '', values: {} };
  const read = kinds[column.kind].read(held.value, column.kind === 'text' ? { long: true } : column);
  return read.ok ? read.value : null;
}

/** Why somebody does what a check asks about: of which record, and what they say. */
export interface GivenReason {
  readonly record: string;
  readonly check: string;
  readonly reason: string;
}

/** What is said of a broken check at its cell; null where its reason was given. */
export function brokenIssue(
  check: TableCheck,
  record: string,
  reasons: readonly GivenReason[] | 'asked before',
): Issue | null {
  const path = [record, check.on];
  const facts = { check: check.id, message: check.message };
  if (!asksForReason(check)) return issue('check-stops', path, facts);
  const given =
    reasons === 'asked before' ||
    reasons.some((one) => one.record === record && one.check === check.id && one.reason.trim() !== '');
  return given ? null : issue('reason-needed', path, facts);
}

export const asksForReason = (check: TableCheck): check is Check =>
  'otherwise' in check && check.otherwise === 'ask';
