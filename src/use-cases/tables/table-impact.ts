import { may, type Catalogue } from '../../core/catalogue/catalogue';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Column, Table } from '../../core/table/model';
import type { CheckImpact, ColumnImpact, Impact, Misfit, Repeated } from '../../core/table/table-change';
import type { Tx } from '../../data/connect';
import { uniqueSets } from '../../data/runtime/tables/apply-redesign';
import { tableCheckMeets } from '../../data/runtime/tables/check-impact';
import { isHeldByDatabase } from '../../data/runtime/tables/hold-checks';
import { distinctValues, repeatedValues } from '../../data/runtime/tables/column-values';
import { refillOf, rowsOf } from '../../data/runtime/tables/refill';
import { designsInUse, readChange } from '../../data/system/table-changes';
import { asOwner } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { planFor, type RedesignPlan } from './plan-redesign';

/** Tables with more records are changed by a job, batch by batch, while people go on. */
export const AT_ONCE = 20_000;
/** Different values looked at here, at most; the change itself looks at all. */
const MOST_VALUES = 200_000;
const SHOWN = 100;

/** What a change would meet, for its owner to look over before it is carried out. */
export async function readTableImpact(context: Context, id: string): Promise<Result<Impact, Refusal>> {
  // As the owner role, because every record counts, seen or not; only counts, values of columns under change, and form titles leave.
  return asOwner({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readChange(tx, catalogue, id);
    if (row === null || row.personId !== context.person.id) return fail(notFound('change'));
    const { tables } = catalogue;
    if (tables.has(row.tableId) && !may(catalogue, context.person.id, 'design', row.tableId))
      return fail(notFound('table'));
    const plan = planFor(row.redesign, catalogue, await designsInUse(tx, catalogue));
    return ok(await impactOf(tx, plan, catalogue, context.now));
  });
}

async function impactOf(tx: Tx, plan: RedesignPlan, catalogue: Catalogue, now: Date): Promise<Impact> {
  const { before, uses, issues } = plan;
  if (before === null) return { records: 0, byJob: false, columns: [], shared: [], checks: [], uses, issues };
  const records = await rowsOf(tx, before);
  const columns = [...(await misfitsOf(tx, before, plan, catalogue)), ...blankFills(plan, records)];
  const shared: Impact['shared'][number][] = [];
  const repeated = new Map<string, { repeated: readonly Repeated[]; rows: number }>();
  for (const set of uniqueSets({ ...plan, refills: [] })) {
    const [first, ...more] = set.flatMap((one) => before.columns.find((column) => column.id === one) ?? []);
    if (first === undefined || more.length + 1 < set.length) continue;
    const found = await repeatedValues(tx, before, [first, ...more], SHOWN);
    if (more.length > 0) shared.push({ columns: set, ...found });
    else repeated.set(first.id, found);
  }
  return {
    records,
    byJob: records > AT_ONCE && takesLong(plan),
    columns: withRepeated(columns, repeated),
    shared,
    checks: await checksMeet(tx, plan, before, catalogue, now),
    uses,
    issues,
  };
}

/** What the checks that are added or changed would say of the records there are. */
async function checksMeet(
  tx: Tx,
  { changes, after }: RedesignPlan,
  before: Table,
  { tables, workspace }: Catalogue,
  now: Date,
): Promise<CheckImpact[]> {
  const at = localTime(workspace, now);
  const wanted = new Map(tables).set(after.id, after);
  const found: CheckImpact[] = [];
  for (const change of changes) {
    if (change.t !== 'add-check' && change.t !== 'change-check') continue;
    const meets = await tableCheckMeets(tx, change.check, before, tables, {
      today: at.slice(0, 10),
      now: at,
    });
    const isHeld = meets?.broken === 0 && isHeldByDatabase(change.check, after, wanted);
    found.push({
      check: change.check.id,
      broken: meets?.broken ?? null,
      examples: meets?.examples ?? [],
      isHeld,
    });
  }
  return found;
}

/** Whether every record is touched or looked at, so that people would wait meanwhile. */
export const takesLong = (plan: RedesignPlan): boolean =>
  plan.conversions.length > 0 || uniqueSets({ ...plan, refills: [] }).length > 0;

async function misfitsOf(
  tx: Tx,
  before: Table,
  plan: RedesignPlan,
  catalogue: Catalogue,
): Promise<ColumnImpact[]> {
  const required = plan.changes.flatMap((change) => (change.t === 'require-column' ? [change.column] : []));
  const looked = [
    ...plan.conversions,
    ...required
      .filter(({ id }) => !plan.conversions.some(({ column }) => column.id === id))
      .flatMap((column) => {
        const old = [...before.columns, ...before.retired].find(({ id }) => id === column.id);
        return old === undefined ? [] : [{ before: old, column, reading: {}, mends: {} }];
      }),
  ];
  const found: ColumnImpact[] = [];
  for (const conversion of looked) {
    const { source, read } = await refillOf(tx, catalogue, conversion);
    const values = await distinctValues(tx, before, conversion.before, MOST_VALUES + 1);
    const misfits = values.slice(0, MOST_VALUES).flatMap(({ value, rows, example }): Misfit[] => {
      const text = source(value);
      const made = read(text);
      return 'value' in made ? [] : [{ text, rows, code: made.code, example }];
    });
    found.push({
      column: conversion.column.id,
      filled: sum(values.filter(({ value }) => value !== null)),
      misfitRows: sum(misfits),
      misfitValues: misfits.length,
      misfits: misfits.slice(0, SHOWN),
      repeatedRows: 0,
      repeated: [],
      lookedAt: values.length > MOST_VALUES ? MOST_VALUES : null,
    });
  }
  return found;
}

const sum = (list: readonly { rows: number }[]): number => list.reduce((total, { rows }) => total + rows, 0);

/** A column that is added and must be filled is blank in every record there is, unless its owner says what stands there. */
function blankFills({ fills }: RedesignPlan, records: number): ColumnImpact[] {
  return fills
    .filter(({ column, value }) => value === null && column.default === '' && records > 0)
    .map(({ column }) => ({
      column: column.id,
      filled: 0,
      misfitRows: records,
      misfitValues: 1,
      misfits: [{ text: '', rows: records, code: 'required', example: '' }],
      repeatedRows: 0,
      repeated: [],
      lookedAt: null,
    }));
}

function withRepeated(
  columns: readonly ColumnImpact[],
  repeated: ReadonlyMap<Column['id'], { repeated: readonly Repeated[]; rows: number }>,
): ColumnImpact[] {
  const known = new Set(columns.map(({ column }) => column));
  const more = [...repeated.keys()]
    .filter((id) => !known.has(id))
    .map((column): ColumnImpact => ({
      column,
      filled: 0,
      misfitRows: 0,
      misfitValues: 0,
      misfits: [],
      repeatedRows: 0,
      repeated: [],
      lookedAt: null,
    }));
  return [...columns, ...more].map((one) => {
    const found = repeated.get(one.column);
    return found === undefined ? one : { ...one, repeatedRows: found.rows, repeated: found.repeated };
  });
}
