import { catalogueNow } from '../../data/catalogue';
import { may, type Catalogue } from '../../core/catalogue/catalogue';
import { seeNewTables } from '../../core/access/rules';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Table } from '../../core/table/model';
import { editable, type ChangeState } from '../../core/table/table-change';
import { refusalSentence } from '../../core/wording/refusal-sentence';
import type { Tx } from '../../data/connect';
import { fieldIssue } from '../../data/field-issues';
import { applyRedesign, setKey, uniqueSets, type Applying } from '../../data/runtime/tables/apply-redesign';
import { buildUnique, dropBuilt } from '../../data/runtime/tables/change-sql';
import {
  addShadows,
  clearShadows,
  fillNext,
  fillPending,
  hasLeftovers,
  lockTable,
  numbersOf,
  refillOf,
  rowsOf,
  watchWrites,
  whileFilled,
  type Refill,
  type Unfit,
} from '../../data/runtime/tables/refill';
import { oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import {
  askChangeJob,
  designsInUse,
  doneChanges,
  noteChangeProgress,
  oneChangeAtATime,
  readChange,
  updateChange,
  type TableChangeRow,
} from '../../data/system/table-changes';
import { asOwner, asOwnerAlone, outsideTransaction } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { planFor, type RedesignPlan } from './plan-redesign';
import { AT_ONCE, takesLong } from './table-impact';
import { speak } from '../../core/wording/speak';

/** Records filled in one transaction: about a fifth of a second, for which whoever changes one of them waits. */
const BATCH = 2_000;
/** Records written meanwhile that may be left for the end, when everybody waits. */
const FEW = 200;
const EXAMPLES = 5;

/** Carries out a change: at once where that takes no time, otherwise by a job while people go on working. */
export async function runTableChange(
  context: Context,
  id: string,
  input: { version: number },
): Promise<Result<{ state: ChangeState }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  let after: Table | undefined;
  return asOwner({ person: who.value.id }, async (tx): Promise<Result<{ state: ChangeState }, Refusal>> => {
    const catalogue = await oneTableChangeAtATime(tx);
    const row = await readChange(tx, catalogue, id, true);
    if (row === null || row.personId !== who.value.id) return fail(notFound('change'));
    if (row.state === 'done') return ok({ state: 'done' });
    if (!editable.has(row.state)) return fail(stale('change-ended'));
    if (row.version !== input.version) return fail(stale('change-changed'));
    const ready = await planned(tx, row, catalogue);
    if (!ready.ok) return ready;
    after = ready.value.after;
    if (takesLong(ready.value) && (await rowsOf(tx, after)) > AT_ONCE) {
      await updateChange(tx, id, {
        state: 'running',
        issues: null,
        progress: { rows: 0, of: await rowsOf(tx, after) },
      });
      await askChangeJob(tx, id);
      return ok({ state: 'running' });
    }
    return atOnce(tx, row, ready.value, catalogue);
  }).catch((error: unknown) => refusedByValues(error, after));
}

/** The plan, if nothing but values can be in its way. */
async function planned(
  tx: Tx,
  row: TableChangeRow,
  catalogue: Catalogue,
): Promise<Result<RedesignPlan, Refusal>> {
  const there = catalogue.tables;
  const now = there.get(row.tableId);
  if (now !== undefined && !may(catalogue, row.personId, 'see', now.id)) return fail(notFound('table'));
  if (now !== undefined && !may(catalogue, row.personId, 'design', now.id))
    return fail(forbidden('design-table'));
  if ((now?.version ?? 0) !== (row.base?.version ?? 0))
    return fail(
      stale('table-changed', { by: (await doneChanges(tx, catalogue, row.tableId, 1))[0]?.by ?? null }),
    );
  const plan = planFor(row.redesign, catalogue, await designsInUse(tx, catalogue));
  const unfilled =
    now === undefined || (await rowsOf(tx, now)) === 0
      ? []
      : plan.fills.filter(({ column, value }) => value === null && column.default === '');
  const issues = [
    ...plan.issues,
    ...unfilled.map(({ column }) => issue('required', [column.id], { label: column.label })),
  ];
  return issues.length > 0 ? fail(invalid(...issues)) : ok(plan);
}

async function atOnce(
  tx: Tx,
  row: TableChangeRow,
  plan: RedesignPlan,
  catalogue: Catalogue,
): Promise<Result<{ state: ChangeState }, Refusal>> {
  const { after, before } = plan;
  const keyOf = keysOf(catalogue.tables, after);
  const refills = await refillsOf(tx, plan, catalogue);
  if (before !== null) await lockTable(tx, before);
  await addShadows(tx, after, refills, keyOf);
  const unfit: Unfit[] = [];
  let last: string | null = null;
  while (refills.length > 0) {
    const filled: Awaited<ReturnType<typeof fillNext>> = await fillNext(tx, after, refills, last, BATCH);
    if (filled === null) break;
    last = filled.last;
    unfit.push(...filled.unfit);
  }
  if (unfit.length > 0) return fail(invalid(...(await unfitIssues(tx, after, unfit))));
  await applyRedesign(tx, applying(plan, refills, new Set()), catalogue.tables, seeNewTables);
  await updateChange(tx, row.id, { state: 'done', progress: null, issues: null });
  return ok({ state: 'done' });
}

const keysOf =
  (there: ReadonlyMap<string, Table>, after: Table) =>
  (id: string): string =>
    id === after.id ? after.key : (there.get(id)?.key ?? '');
const refillsOf = async (tx: Tx, { conversions }: RedesignPlan, catalogue: Catalogue): Promise<Refill[]> => {
  const refills: Refill[] = [];
  for (const conversion of conversions) refills.push(await refillOf(tx, catalogue, conversion));
  return refills;
};

function applying(
  { before, after, changes, fills }: RedesignPlan,
  refills: readonly Refill[],
  built: ReadonlySet<string>,
): Applying {
  return {
    before,
    after,
    changes,
    refills,
    built,
    filled: new Map(fills.flatMap(({ column, value }) => (value === null ? [] : [[column.id, value]]))),
  };
}

/** One issue for each column, with a few of its values. */
async function unfitIssues(tx: Tx, table: Table, unfit: readonly Unfit[]): Promise<Issue[]> {
  const columns = [...new Map(unfit.map(({ column }) => [column.id, column])).values()];
  const numbers = await numbersOf(
    tx,
    table,
    columns.flatMap(({ id }) =>
      unfit
        .filter(({ column }) => column.id === id)
        .slice(0, EXAMPLES)
        .map((one) => one.id),
    ),
  );
  return columns.map((column) => {
    const own = unfit.filter((one) => one.column.id === column.id);
    const examples = own
      .slice(0, EXAMPLES)
      .map(({ text, id }) => speak`${text === '' ? speak`nothing` : `“${text}”`} in ${numbers.get(id) ?? id}`)
      .join(', ');
    return issue('values-misfit', [column.id], { label: column.label, rows: own.length, examples });
  });
}

/** What the database itself found in the rows, said at its column; anything else is a fault. */
function refusedByValues(error: unknown, table: Table | undefined): Result<never, Refusal> {
  const found = fieldIssue(error, table);
  if (found === null) throw error;
  return fail(
    invalid(
      found.code === 'already-used'
        ? issue('values-repeated', found.path, {
            ...found.facts,
            rows: 'Some',
            examples: 'look it over again to see which',
          })
        : found,
    ),
  );
}

/**
 * Carries out a change of a large table. Columns that are filled anew stand beside the old ones until the last transaction, which is short:
 * people read and write all the while. Whatever an earlier attempt left, because its process was killed, is taken away first.
 */
export async function changeTable(id: string): Promise<void> {
  // A worker that starts asks again for what is under way; while another is at it, there is nothing to do.
  await asOwnerAlone(`change ${id}`, () => changeAlone(id));
}

async function changeAlone(id: string): Promise<void> {
  const row = await currentChange(id);
  if (row?.state !== 'running') return;
  const { table } = row.redesign;
  try {
    const done = await filledAndSwapped(row).catch((error: unknown) => refusedByValues(error, table));
    if (!done.ok) await refuseChange(row, done.error);
  } finally {
    if ((await currentChange(id))?.state !== 'done') await tidyUp(row);
  }
}

const currentChange = async (id: string): Promise<TableChangeRow | null> => {
  const row = await asOwner({ person: '' }, async (tx, catalogue) => ok(await readChange(tx, catalogue, id)));
  return row.ok ? row.value : null;
};

async function filledAndSwapped(row: TableChangeRow): Promise<Result<null, Refusal>> {
  const person = row.personId;
  await tidyUp(row);
  const begun = await patiently(() =>
    asOwner({ person }, async (tx) => {
      await oneChangeAtATime(tx, row.tableId);
      const catalogue = await catalogueNow(tx);
      const there = catalogue.tables;
      const plan = await planned(tx, row, catalogue);
      if (!plan.ok) return plan;
      const refills = await refillsOf(tx, plan.value, catalogue);
      await lockTable(tx, plan.value.after);
      await addShadows(tx, plan.value.after, refills, keysOf(there, plan.value.after));
      if (refills.length > 0) await watchWrites(tx, plan.value.after, row.id);
      return ok({ plan: plan.value, refills });
    }),
  );
  if (!begun.ok) return begun;
  const { plan, refills } = begun.value;
  const filled = refills.length === 0 ? ok(null) : await fillAll(row, plan, refills);
  if (!filled.ok) return filled;
  const built = await buildIndexes(plan, refills);
  return patiently(() => asOwner({ person }, (tx) => swap(tx, row, refills, built)));
}

async function fillAll(
  row: TableChangeRow,
  { after }: RedesignPlan,
  refills: readonly Refill[],
): Promise<Result<null, Refusal>> {
  const of = row.progress?.of ?? 0;
  let [last, rows]: [string | null, number] = [null, 0];
  for (;;) {
    const step = await asOwner({ person: row.personId }, async (tx) => {
      const filled = await fillNext(tx, after, refills, last, BATCH);
      if (filled !== null && filled.unfit.length > 0)
        return fail(invalid(...(await unfitIssues(tx, after, filled.unfit))));
      if (filled !== null)
        await noteChangeProgress(tx, row.id, {
          rows: rows + filled.rows,
          of: Math.max(of, rows + filled.rows),
        });
      return ok(filled);
    });
    if (!step.ok) return step;
    if (step.value === null) break;
    [last, rows] = [step.value.last, rows + step.value.rows];
  }
  for (;;) {
    const step = await asOwner({ person: row.personId }, (tx) => pendingOnce(tx, row, after, refills));
    if (!step.ok) return step;
    if (step.value < FEW) return ok(null);
  }
}

async function pendingOnce(
  tx: Tx,
  row: TableChangeRow,
  after: Table,
  refills: readonly Refill[],
): Promise<Result<number, Refusal>> {
  const { rows, unfit } = await fillPending(tx, after, refills, row.id, BATCH);
  return unfit.length > 0 ? fail(invalid(...(await unfitIssues(tx, after, unfit)))) : ok(rows);
}

/** Indexes that hold values against each other are built while people write. */
async function buildIndexes(plan: RedesignPlan, refills: readonly Refill[]): Promise<Set<string>> {
  const built = new Set<string>();
  for (const set of uniqueSets({ ...plan, refills })) {
    const columns = set.flatMap((id) => {
      const refilled = refills.find(({ column }) => column.id === id);
      return refilled === undefined
        ? (plan.before?.columns.find((one) => one.id === id) ?? [])
        : whileFilled(refilled.column, refills);
    });
    if (columns.length < set.length) continue;
    await outsideTransaction(buildUnique(set, plan.after, columns));
    built.add(setKey(set));
  }
  return built;
}

async function swap(
  tx: Tx,
  row: TableChangeRow,
  refills: readonly Refill[],
  built: ReadonlySet<string>,
): Promise<Result<null, Refusal>> {
  const catalogue = await oneTableChangeAtATime(tx);
  const there = catalogue.tables;
  const plan = await planned(tx, row, catalogue);
  if (!plan.ok) return plan;
  await lockTable(tx, plan.value.after);
  for (let rows = BATCH; refills.length > 0 && rows > 0;) {
    const step = await pendingOnce(tx, row, plan.value.after, refills);
    if (!step.ok) return step;
    rows = step.value;
  }
  if (refills.length > 0) await clearShadows(tx, plan.value.after, [], row.id);
  await applyRedesign(tx, applying(plan.value, refills, built), there, seeNewTables);
  await updateChange(tx, row.id, { state: 'done', progress: null, issues: null });
  return ok(null);
}

/** Tries again while somebody holds the table: those who wait behind us wait for seconds, not for minutes. */
async function patiently<T>(work: () => Promise<Result<T, Refusal>>): Promise<Result<T, Refusal>> {
  for (let tries = 1; ; tries++) {
    const done = await work();
    if (done.ok || tries >= 40 || done.error.kind !== 'stale' || done.error.why !== 'busy') return done;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}

/** Leaves the table as it was. */
async function tidyUp({ id, personId, redesign, base }: TableChangeRow): Promise<void> {
  const { table } = redesign;
  const sets = [
    ...table.columns.filter(({ unique }) => unique).map((column) => [column.id]),
    ...table.together,
  ];
  await patiently(() =>
    asOwner({ person: personId }, async (tx, catalogue) => {
      const there = catalogue.tables.get(table.id);
      if (there === undefined || base === null || !(await hasLeftovers(tx, there, sets))) return ok(null);
      await lockTable(tx, there);
      await clearShadows(tx, there, table.columns, id);
      for (const set of sets) await tx.execute(dropBuilt(set, table));
      return ok(null);
    }),
  );
}

async function refuseChange(row: TableChangeRow, refusal: Refusal): Promise<void> {
  const issues =
    refusal.kind === 'invalid'
      ? refusal.issues
      : [issue('change-stopped', ['table'], { why: refusalSentence(refusal) })];
  await asOwner({ person: row.personId }, async (tx, catalogue) => {
    if ((await readChange(tx, catalogue, row.id, true))?.state === 'running')
      await updateChange(tx, row.id, { state: 'refused', issues, progress: null });
    return ok(null);
  });
}

/** The job has failed for good: the change says so instead of waiting for ever. */
export async function giveUpChange(id: string): Promise<void> {
  const row = await currentChange(id);
  if (row?.state === 'running')
    await refuseChange(
      row,
      invalid(
        issue('change-stopped', ['table'], {
          why: 'something went wrong on our side, several times. Your administrator finds it in the log',
        }),
      ),
    );
}
