import { may, type Catalogue } from '../../core/catalogue/catalogue';
import type { Issue } from '../../core/kernel/issue';
import { ok, type Result } from '../../core/kernel/result';
import type { Refusal } from '../../core/kernel/refusal';
import { afterRefusal, furtherOn, type BulkProgress } from '../../core/record/bulk-change';
import type { ChangeRecord } from '../../core/record/edit';
import { worldAt } from '../../core/workspace';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { recordsAfter, recordsOf } from '../../data/runtime/records/records';
import { keepBacks, noteBulk, readBacks, readBulk, type BulkRow } from '../../data/system/bulk-changes';
import { asOwner, asPerson } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { applyEdits } from './apply-edits';
import { whichRecords, wordsSeen } from './which-records';

/** Records changed in one transaction: those who write to one of them meanwhile wait a fifth of a second at most. */
const AT_ONCE = 500;

/** An edit with the number its record is told by. */
interface Numbered extends ChangeRecord {
  readonly number: string;
}
interface Batch {
  readonly edits: readonly Numbered[];
  /** The last record that was looked at; null when there is nothing left. */
  readonly upTo: string | null;
  readonly looked: number;
}

/**
 * Carries a bulk change out, some records at a time, as whoever asked and with the rights they have by then. One that was cut off looks
 * once more at the batch it was in; what is as it is wanted already is left alone.
 */
export async function runBulkChange(id: string): Promise<void> {
  while (await oneBatch(id));
}

/** A job that failed for good is stopped where it is; what it changed is changed, and can be taken back. */
export async function giveUpBulk(id: string): Promise<void> {
  await asOwner({ person: '' }, async (tx) => ok(await noteBulk(tx, id, { state: 'stopped' })));
}

/** False when it has come to its end, or was stopped. */
async function oneBatch(id: string): Promise<boolean> {
  const row = await must(asOwner({ person: '' }, async (tx) => ok(await readBulk(tx, id))));
  if (row === null || row.state !== 'running') return false;
  const read = await must(
    asPerson({ person: row.personId }, async (tx, catalogue) => ok(await nextBatch(tx, catalogue, row))),
  );
  if (read === null || read.upTo === null) {
    await must(
      asPerson({ person: row.personId }, async (tx) =>
        ok(await noteBulk(tx, id, { state: read === null ? 'stopped' : 'done' })),
      ),
    );
    return false;
  }
  const { upTo, looked, edits } = read;
  const refused: BulkProgress['examples'][number][] = [];
  let changed = 0;
  for (let tries: (readonly Numbered[])[] = [edits]; tries.length > 0;) {
    const [batch = [], ...others] = tries;
    const done = batch.length === 0 ? { changed: 0, issues: [] } : await applied(row, batch);
    changed += done.changed;
    const next = done.issues.length === 0 ? { tried: [], left: [] } : afterRefusal(idsOf(batch), done.issues);
    refused.push(
      ...batch.filter(({ id: one }) => next.left.includes(one)).map((one) => told(one, done.issues)),
    );
    tries = [...next.tried.map((ids) => batch.filter(({ id: one }) => ids.includes(one))), ...others];
  }
  const progress = furtherOn(row.progress, { looked, changed, refused });
  await must(
    asPerson({ person: row.personId }, async (tx) => ok(await noteBulk(tx, id, { progress, upTo }))),
  );
  return true;
}

const idsOf = (edits: readonly Numbered[]): string[] => edits.map(({ id }) => id);

function told({ id, number }: Numbered, issues: readonly Issue[]): BulkProgress['examples'][number] {
  const [first] = issues;
  return { number, issue: issues.find(({ path }) => path[0] === id) ?? (first as Issue) };
}

/** The next records to look at, and what is to be done with them; null once whoever asked may not any more. */
async function nextBatch(tx: Tx, catalogue: Catalogue, row: BulkRow): Promise<Batch | null> {
  const table = catalogue.tables.get(row.tableId);
  if (table === undefined || !may(catalogue, row.personId, 'see', table.id)) return null;
  if (!may(catalogue, row.personId, 'change', table.id)) return null;
  return row.what.t === 'set' ? toSet(tx, catalogue, row, table) : toTakeBack(tx, catalogue, row, table);
}

async function toSet(tx: Tx, catalogue: Catalogue, row: BulkRow, table: Table): Promise<Batch | null> {
  const { what } = row;
  const context = contextOf(catalogue, row);
  const column = what.t === 'set' ? table.columns.find(({ id }) => id === what.column) : undefined;
  if (what.t !== 'set' || column === undefined || context === null) return null;
  const words = await wordsSeen(tx, catalogue, context, table, what.find);
  const which = whichRecords(catalogue, context, table, { words, where: what.where });
  if (!which.ok) return null;
  const rows = await recordsAfter(tx, catalogue.tables, table, row.upTo, AT_ONCE, which.value.condition);
  const edits = rows.map(({ id, number, version, cells, named }): Numbered => {
    const before = (column.kind === 'reference' ? named[column.id] : cells[column.id]) ?? null;
    return {
      t: 'change',
      table: table.id,
      id,
      number,
      version,
      before: { [column.id]: before },
      values: { [column.id]: what.value },
    };
  });
  return { edits, upTo: rows.at(-1)?.id ?? null, looked: rows.length };
}

async function toTakeBack(tx: Tx, catalogue: Catalogue, row: BulkRow, table: Table): Promise<Batch | null> {
  if (row.what.t !== 'take-back') return null;
  const backs = await readBacks(tx, row.what.of, row.upTo, AT_ONCE);
  const numbers = await recordsOf(
    tx,
    catalogue.tables,
    table,
    backs.map(({ record }) => record),
  );
  const edits = backs.map(({ record, version, before, values }): Numbered => ({
    t: 'change',
    table: table.id,
    id: record,
    number: numbers.get(record)?.number ?? '',
    version,
    before,
    values,
  }));
  return { edits, upTo: backs.at(-1)?.record ?? null, looked: backs.length };
}

/** All of these, or none with the reasons. What they take to be undone is noted with them. */
async function applied(
  row: BulkRow,
  batch: readonly Numbered[],
): Promise<{ changed: number; issues: readonly Issue[] }> {
  const done: Result<number, Refusal> = await asPerson({ person: row.personId }, async (tx, catalogue) => {
    const world = worldAt(catalogue.workspace, localTime(catalogue.workspace, row.createdAt));
    const edits = batch.map(({ number: _, ...edit }) => edit);
    const result = await applyEdits(tx, catalogue, { edits, person: row.personId, world, reasons: [] });
    if (!result.ok) return result;
    const { inverse } = result.value;
    if (row.what.t === 'set')
      await keepBacks(
        tx,
        row.id,
        inverse.flatMap((edit) =>
          edit.t === 'change'
            ? [{ record: edit.id, version: edit.version, before: edit.before, values: edit.values }]
            : [],
        ),
      );
    return ok(inverse.length);
  });
  if (done.ok) return { changed: done.value, issues: [] };
  if (done.error.kind === 'invalid') return { changed: 0, issues: done.error.issues };
  throw new Error(`a bulk change was refused: ${done.error.kind}`);
}

function contextOf({ people }: Catalogue, { personId, createdAt }: BulkRow): Context | null {
  const person = people.get(personId);
  return person === undefined || person.ended ? null : { person, now: createdAt };
}

async function must<T>(result: Promise<Result<T, Refusal>>): Promise<T> {
  const settled = await result;
  if (!settled.ok) throw new Error(`a bulk change was refused: ${settled.error.kind}`);
  return settled.value;
}
