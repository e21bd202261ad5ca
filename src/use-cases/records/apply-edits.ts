import { isLimited, may, rowRulesFor, type Catalogue } from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { grouped } from '../../core/kernel/grouped';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { World } from '../../core/expression/functions/builtin';
import {
  forbiddenEdits,
  inverseOf,
  limitedEdits,
  meet,
  namesIn,
  readEdit,
  type RecordEdit,
  type StoredRecord,
} from '../../core/record/edit';
import type { Table } from '../../core/table/model';
import { withMadeValues } from '../links/made-values';
import type { Tx } from '../../data/connect';
import { databaseFault, fieldIssue } from '../../data/field-issues';
import { patience, withSources } from '../../data/runtime/links/open-source';
import {
  lockRecords,
  namingRemoved,
  namingThese,
  removedAmong,
  waitForRemovals,
  writeEdits,
} from '../../data/runtime/records/write-edits';

import {
  asIssues,
  brokenAfter,
  brokenBefore,
  columnsForChecks,
  keepReasons,
  type Checking,
} from './hold-checks';
import { idsSeen, idsWithin } from '../../data/runtime/records/within-rules';
import { filesKept } from '../files/go-with';

export interface Edits {
  readonly edits: readonly RecordEdit[];
  /**
   * Whose rights are asked. Null where a submission is kept: what its release may write to was asked when it
   * was released, and the database asks again.
   */
  readonly person: string | null;
  /** What expressions may ask of the world. */
  readonly world: World;
  /** Of what checks ask about; of a submission its sender was asked when it was sent. */
  readonly reasons: Checking['reasons'];
  /** Set where the transaction will be undone: numbers, which others wait for, are not taken then. */
  readonly trying?: boolean;
}

/** What was done: the version each record has now, and the edits that take it all back. */
export interface Applied {
  readonly versions: ReadonlyMap<string, number>;
  readonly inverse: readonly RecordEdit[];
}

/**
 * The one door by which records are added, changed and removed: a batch, together or not at all. Rights,
 * values, the versions that edits began from, and the records they name are asked about here, and the checks
 * of the tables; the rest by the database; everything that is wrong comes back, each issue at `[record,
 * column]`. What the tables refuse spoils the transaction, so whoever asked must end it.
 */
export async function applyEdits(
  tx: Tx,
  catalogue: Catalogue,
  { edits, person, world, reasons, trying = false }: Edits,
): Promise<Result<Applied, Refusal>> {
  const { tables } = catalogue;
  const twice = [...grouped(edits, ({ id }) => id)].filter(([, list]) => list.length > 1);
  const wrong = [
    ...twice.map(([id]) => issue('malformed', [id])),
    ...(person === null ? [] : forbiddenEdits(catalogue, person, edits)),
  ];
  const read = edits.map((edit) => readEdit(tables, edit));
  const issues = [...wrong, ...read.flatMap((one) => (one.ok ? [] : one.error))];
  if (issues.length > 0) return fail(invalid(...issues));
  const asked = read.flatMap((one) => (one.ok ? [one.value] : []));
  const beyond = person === null ? [] : await beyondRules(tx, catalogue, person, asked);
  if (beyond.length > 0) return fail(invalid(...beyond));
  const met = await metRecords(tx, catalogue, asked);
  if (!met.ok) return fail(invalid(...met.error));
  const { left, stored } = met.value;
  const checking: Checking = { catalogue, edits: left, stored, world, reasons };
  const before = brokenBefore(checking);
  const stopped = asIssues(before, checking);
  if (stopped.length > 0) return fail(invalid(...stopped));
  const refused = await written(tx, catalogue, left, { person, trying });
  if (refused.length > 0) return fail(invalid(...refused));
  const after = await brokenAfter(tx, checking);
  const broken = asIssues(after, checking);
  if (broken.length > 0) return fail(invalid(...broken));
  if (person !== null) await keepReasons(tx, person, [...before, ...after], checking);
  const versions = new Map(left.map((edit) => [edit.id, edit.t === 'add' ? 1 : edit.version + 1]));
  const inverse = left.map((edit) => inverseOf(edit, versions.get(edit.id) ?? 1)).reverse();
  return ok({ versions, inverse });
}

/** What is still to be written once each edit has met its record as it is now. */
async function metRecords(
  tx: Tx,
  catalogue: Catalogue,
  edits: readonly RecordEdit[],
): Promise<Result<{ left: RecordEdit[]; stored: ReadonlyMap<string, StoredRecord> }, Issue[]>> {
  const { tables } = catalogue;
  await waitForRemovals(tx, tables, edits);
  const stored = await lockRecords(tx, tables, edits, (table) => columnsForChecks(catalogue, table));
  const issues: Issue[] = [];
  const left = edits.flatMap((edit): RecordEdit[] => {
    const table = tables.get(edit.table);
    if (edit.t === 'add' || table === undefined) return [edit];
    const met = meet(table, edit, stored.get(edit.id));
    if (!met.ok) issues.push(...met.error);
    return met.ok && met.value !== null ? [met.value] : [];
  });
  return issues.length > 0 ? fail(issues) : ok({ left, stored });
}

/**
 * Where somebody may do something with some records of a table only: records that are none of those, though
 * they see them, and records named that they do not see. What they do not see is not there for them, which is
 * said when it is met.
 */
export async function beyondRules(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  edits: readonly RecordEdit[],
): Promise<Issue[]> {
  const issues: Issue[] = [];
  for (const { table, action, ids } of limitedEdits(catalogue, person, edits)) {
    const [seen, within] = [await idsSeen(tx, table, ids), await idsWithin(tx, table, action, ids)];
    for (const id of ids.filter((one) => seen.has(one) && !within.has(one)))
      issues.push(issue('record-not-yours', [id], { action, table: table.label }));
  }
  const added = new Set(edits.flatMap((edit) => (edit.t === 'add' ? [edit.id] : [])));
  const named = namesIn(catalogue.tables, edits).filter(({ id }) => !added.has(id));
  for (const [id, own] of grouped(named, ({ table }) => table)) {
    const table = catalogue.tables.get(id);
    if (table === undefined || !isLimited(catalogue, person, table) || may(catalogue, person, 'pick', id))
      continue;
    const seen = await idsSeen(
      tx,
      table,
      own.map((one) => one.id),
    );
    for (const { path, label } of own.filter((one) => !seen.has(one.id)))
      issues.push(issue('not-a-record', path, { label }));
  }
  return issues;
}

/** That what was written is beyond what somebody sees, or may write, of a table; the policies say so. */
function outOfReach(
  error: unknown,
  catalogue: Catalogue,
  person: string | null,
  edits: readonly RecordEdit[],
): Issue[] {
  if (person === null || databaseFault(error)?.code !== '42501') return [];
  const limited = edits.filter(({ table: id }) => {
    const table = catalogue.tables.get(id);
    const rules = (['add', 'change'] as const).map((action) => rowRulesFor(catalogue, person, action, id));
    return (
      table !== undefined &&
      (isLimited(catalogue, person, table) || rules.some((one) => one !== null && one.length > 0))
    );
  });
  const [first] = limited;
  const label = catalogue.tables.get(first?.table ?? '')?.label ?? '';
  return first === undefined
    ? []
    : [issue('beyond-your-records', edits.length === 1 ? [first.id] : [], { table: label })];
}

async function written(
  tx: Tx,
  catalogue: Catalogue,
  edits: readonly RecordEdit[],
  { person, trying }: { readonly person: string | null; readonly trying: boolean },
): Promise<Issue[]> {
  const { tables } = catalogue;
  const touched = [...new Set(edits.map(({ table }) => table))].flatMap((id) => tables.get(id) ?? []);
  const linked = touched.filter((table) => table.linked !== null).map(({ id }) => id);
  const write = async () => writeEdits(tx, tables, await withMadeValues(tx, linked, edits), trying);
  try {
    await (linked.length === 0 ? write() : withSources(tx, linked, patience.person, write));
  } catch (error) {
    const issues = touched.flatMap((table) => fieldIssue(error, table) ?? []);
    if (issues.length > 0) return issues;
    const beyond = outOfReach(error, catalogue, person, edits);
    if (beyond.length > 0) return beyond;
    if (databaseFault(error)?.constraint?.endsWith('_pkey') === true) return [issue('malformed', [])];
    throw error;
  }
  return [
    ...(await filesKept(tx, tables, edits)),
    ...(await namedAndRemoved(tx, tables, edits)),
    ...(await backToNothing(tx, tables, edits)),
    ...(await stillNamed(tx, tables, edits)),
  ];
}

/** What an edit names must be there. Whoever removes it at this moment waits for us, or we have waited for them. */
async function namedAndRemoved(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  edits: readonly RecordEdit[],
): Promise<Issue[]> {
  const fresh = new Set(edits.flatMap((edit) => (edit.t === 'add' ? [edit.id] : [])));
  const names = namesIn(tables, edits).filter(({ id }) => !fresh.has(id));
  const ids = new Map(
    [...grouped(names, ({ table }) => table)].map(([table, of]) => [
      table,
      [...new Set(of.map(({ id }) => id))],
    ]),
  );
  const removed = await removedAmong(tx, tables, ids);
  return names
    .filter(({ id }) => removed.has(id))
    .map(({ path, label }) => issue('record-gone', path, { label }));
}

/** What comes back must find what it names. */
async function backToNothing(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  edits: readonly RecordEdit[],
): Promise<Issue[]> {
  const issues: Issue[] = [];
  const back = edits.filter(({ t }) => t === 'restore');
  for (const [table, own] of grouped(back, (edit) => edit.table)) {
    const ids = own.map(({ id }) => id);
    for (const { id, column } of await namingRemoved(tx, tables, table, ids))
      issues.push(
        issue('record-gone', column === null ? [id] : [id, column], {
          label: tables.get(table)?.columns.find((one) => one.id === column)?.label ?? '',
        }),
      );
  }
  return issues;
}

/** Records that name another are told by number up to so many. */
const NAMED_BY = 3;

/** What is removed must be named by nothing that stays: one issue for each table that does. */
async function stillNamed(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  edits: readonly RecordEdit[],
): Promise<Issue[]> {
  const removals = edits.filter(({ t }) => t === 'remove');
  const issues: Issue[] = [];
  for (const [table, own] of grouped(removals, (edit) => edit.table)) {
    const naming = await namingThese(
      tx,
      table,
      own.map(({ id }) => id),
    );
    for (const some of grouped(naming, (one) => `${one.record} ${one.table}`).values()) {
      const [first] = some;
      if (first === undefined) continue;
      const numbers = some.map(({ number }) => number).filter((number) => number !== '');
      issues.push(
        issue('record-named', [first.record], {
          record: numbers.slice(0, NAMED_BY).join(', '),
          table: tables.get(first.table)?.label ?? '',
          count: some.length,
        }),
      );
    }
  }
  return issues;
}
