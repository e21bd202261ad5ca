import type { Catalogue } from '../../core/catalogue/catalogue';
import type { TableCheck } from '../../core/check/check';
import { comparedBy } from '../../core/check/existing';
import { checksOf, type ReadCheck } from '../../core/check/table-checks';
import type { World } from '../../core/expression/functions/builtin';
import { grouped } from '../../core/kernel/grouped';
import type { Issue } from '../../core/kernel/issue';
import type { RecordEdit, StoredRecord } from '../../core/record/edit';
import { asksForReason, breaksOwn, brokenIssue, type GivenReason } from '../../core/record/own-checks';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { brokenOfTable } from '../../data/runtime/records/existing-checks';
import {
  breaking,
  noteReasons,
  parentsOf,
  takeTurns,
  whileChecking,
} from '../../data/runtime/records/table-checks';

export interface Checking {
  readonly catalogue: Catalogue;
  readonly edits: readonly RecordEdit[];
  /** The records that are changed, as they were. */
  readonly stored: ReadonlyMap<string, StoredRecord>;
  readonly world: World;
  /** Of what checks ask about; of a submission its sender was asked when it was sent. */
  readonly reasons: readonly GivenReason[] | 'asked before';
}

interface Broken {
  readonly table: Table;
  readonly check: TableCheck;
  readonly record: string;
}

/** The columns that must be known of a record that is changed, so that the checks which read nothing else can be told. */
export const columnsForChecks = (catalogue: Catalogue, table: Table): string[] => [
  ...new Set(ownOf(catalogue, table).flatMap(({ reads }) => [...reads])),
];

const ownOf = (catalogue: Catalogue, table: Table): ReadCheck[] =>
  checksOf(table, catalogue.tables).conditions.filter(({ isOwn }) => isOwn);

/**
 * A new record is asked everything; one that is changed, what reads a column that changes. Records there are
 * may break what they broke before.
 */
function isAsked(edit: RecordEdit, reads: Iterable<string>): boolean {
  if (edit.t !== 'change') return edit.t !== 'remove';
  for (const id of reads) if (id in edit.values) return true;
  return false;
}

/** What is broken whatever other records hold: told before anything is written, each at its cell. */
export function brokenBefore(checking: Checking): Broken[] {
  const { catalogue, edits, stored, world } = checking;
  return edits.flatMap((edit) => {
    const table = catalogue.tables.get(edit.table);
    if (table === undefined || table.checks.length === 0 || !('values' in edit)) return [];
    const values = { ...stored.get(edit.id)?.values, ...edit.values };
    return (
      ownOf(catalogue, table)
        .filter(({ reads }) => isAsked(edit, reads))
        // What a new record gets by itself is not known yet; the same check asks again when it is there.
        .filter((one) => edit.t === 'change' || !waits(one, table, edit.values))
        .filter((one) => breaksOwn(one, table, values, world))
        .map(({ check }) => ({ table, check, record: edit.id }))
    );
  });
}

/** Whether a check reads a column that a new record fills by itself. */
const waits = ({ reads }: ReadCheck, table: Table, values: Readonly<Record<string, unknown>>): boolean =>
  table.columns.some(({ id, default: preset }) => preset !== '' && reads.has(id) && !(id in values));

/** What is broken once all of it is written: by what records refer to, by what their rows come to, and by what others there are. */
export async function brokenAfter(tx: Tx, checking: Checking): Promise<Broken[]> {
  const { catalogue, edits } = checking;
  const broken: Broken[] = [];
  for (const table of checkedTables(catalogue, edits))
    broken.push(...(await whileChecking(tx, table, () => brokenIn(tx, table, checking))));
  return broken;
}

/** Those written to, and those whose checks read rows that were. In one order, so that no two batches wait for each other. */
function checkedTables({ tables }: Catalogue, edits: readonly RecordEdit[]): Table[] {
  const written = [...new Set(edits.map(({ table }) => table))].flatMap((id) => tables.get(id) ?? []);
  const parents = written.flatMap((table) => tables.get(table.parent ?? '') ?? []);
  return [...new Set([...written, ...parents])]
    .filter(({ checks }) => checks.length > 0)
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

async function brokenIn(tx: Tx, table: Table, checking: Checking): Promise<Broken[]> {
  const { catalogue, edits, world } = checking;
  const { conditions, among } = checksOf(table, catalogue.tables);
  const own = edits.filter((edit) => edit.table === table.id);
  const parents = new Map<string, string[]>();
  const found: Broken[] = [];
  for (const one of conditions) {
    const asked = one.isOwn
      ? own.filter((edit) => edit.t === 'restore' || (edit.t === 'add' && waits(one, table, edit.values)))
      : own.filter((edit) => isAsked(edit, one.reads));
    const above = await recordsAbove(tx, checking, one, parents);
    const ids = [...new Set([...asked.map(({ id }) => id), ...above])];
    if (ids.length === 0) continue;
    if (one.rows.size > 0) await takeTurns(tx, table, ids);
    for (const record of await breaking(tx, table, catalogue.tables, one, ids, world))
      found.push({ table, check: one.check, record });
  }
  const held = among.filter((check) => own.some((edit) => isAsked(edit, comparedBy(check))));
  if (held.length === 0) return found;
  const ids = own.filter(({ t }) => t !== 'remove').map(({ id }) => id);
  for (const { check, record } of await brokenOfTable(tx, table, held, ids))
    found.push({ table, check, record });
  return found;
}

/** The records whose rows were written, for a check that reads those. `known` keeps what was looked up. */
async function recordsAbove(
  tx: Tx,
  { catalogue, edits }: Checking,
  { rows }: ReadCheck,
  known: Map<string, string[]>,
): Promise<string[]> {
  const all: string[] = [];
  for (const [id, own] of grouped(edits, ({ table }) => table)) {
    const table = catalogue.tables.get(id);
    if (table === undefined || !rows.has(id)) continue;
    const found =
      known.get(id) ??
      (await parentsOf(
        tx,
        table,
        own.map((edit) => edit.id),
      ));
    known.set(id, found);
    all.push(...found);
  }
  return all;
}

/** What is broken as issues at its cells, without what a reason was given for. */
export const asIssues = (broken: readonly Broken[], { reasons }: Checking): Issue[] =>
  broken.flatMap(({ check, record }) => brokenIssue(check, record, reasons) ?? []);

/** Keeps the reasons of what was done although a check asks about it; whatever else was given is nobody's reason. */
export async function keepReasons(
  tx: Tx,
  person: string,
  broken: readonly Broken[],
  { reasons }: Checking,
): Promise<void> {
  if (reasons === 'asked before') return;
  await noteReasons(
    tx,
    person,
    broken.flatMap(({ table, check, record }) => {
      const given = reasons.find((one) => one.record === record && one.check === check.id);
      return given === undefined || !asksForReason(check)
        ? []
        : [{ ...given, reason: given.reason.trim(), table: table.id, message: check.message }];
    }),
  );
}
