import type { BulkChangeData } from '../../contract/bulk-changes';
import { seenTable, type Catalogue } from '../../core/catalogue/catalogue';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { begunProgress, type BulkWhat } from '../../core/record/bulk-change';
import { columnValue } from '../../core/record/column-value';
import { forbiddenEdits } from '../../core/record/edit';
import { isTypedIn, type Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { insertBulk, lastBulk, noteBulk, readBulk, type BulkRow } from '../../data/system/bulk-changes';
import { countRecords } from '../../data/runtime/records/find-records';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { whichRecords, wordsSeen } from './which-records';

interface Begin {
  readonly id: string;
  readonly find: string;
  readonly where: string;
  readonly column: string;
  readonly value: string | boolean | null;
  readonly title: string;
}

/** Begins to set one column in all records that are found, by a job; asked twice with one id, it is begun once. */
export async function beginBulkChange(
  context: Context,
  key: string,
  { id, ...asked }: Begin,
): Promise<Result<BulkChangeData, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    const known = await readBulk(tx, id);
    if (known !== null) return known.tableId === table.id ? ok(told(known)) : fail(stale('key-reused'));
    const fits = valueFits(catalogue, person, table, asked);
    if (!fits.ok) return fits;
    const words = await wordsSeen(tx, catalogue, context, table, asked.find);
    const which = whichRecords(catalogue, context, table, { words, where: asked.where });
    if (!which.ok) return which;
    const of = await countRecords(tx, table, which.value.condition);
    return inserted(tx, { id, tableId: table.id, personId: person, what: { t: 'set', ...asked }, of });
  });
}

/** The last bulk change that whoever asks began in this table; null for none within a day. */
export function lastBulkChange(
  context: Context,
  key: string,
): Promise<Result<{ last: BulkChangeData | null }, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    const last = await lastBulk(tx, table.id, person);
    return ok({ last: last === null ? null : told(last) });
  });
}

/** Stops one that is at work, or begins to take back what one did: `next` is then the id of that. */
export function steerBulkChange(
  context: Context,
  id: string,
  { do: what, id: next }: { readonly do: 'stop' | 'take-back'; readonly id?: string | undefined },
): Promise<Result<BulkChangeData, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx) => {
    const row = await readBulk(tx, id, true);
    if (row === null || row.personId !== person) return fail(notFound('change'));
    if (what === 'stop') {
      if (row.state !== 'running') return ok(told(row));
      await noteBulk(tx, id, { state: 'stopped' });
      return ok(told({ ...row, state: 'stopped' }));
    }
    if (next === undefined) return fail(invalid(issue('malformed', ['id'])));
    const begun = await readBulk(tx, next);
    if (begun !== null) return ok(told(begun));
    if (!told(row).canTakeBack) return fail(stale('change-ended'));
    const { tableId, progress, what: done } = row;
    return inserted(tx, {
      id: next,
      tableId,
      personId: person,
      what: { t: 'take-back', of: id, column: done.column },
      of: progress.changed,
    });
  });
}

async function inserted(
  tx: Tx,
  {
    of,
    ...row
  }: Pick<BulkRow, 'id' | 'tableId' | 'personId'> & { readonly what: BulkWhat; readonly of: number },
): Promise<Result<BulkChangeData, Refusal>> {
  const progress = begunProgress(of);
  if (!(await insertBulk(tx, { ...row, progress }))) return fail(stale('bulk-running'));
  return ok(told({ ...row, progress, state: 'running' }));
}

const told = ({
  id,
  what,
  state,
  progress,
}: Pick<BulkRow, 'id' | 'what' | 'state' | 'progress'>): BulkChangeData => ({
  id,
  what,
  state,
  progress,
  canTakeBack: what.t === 'set' && state !== 'running' && progress.changed > 0,
});

/** That the column may be typed in by whoever asks, and can hold the value. */
function valueFits(
  catalogue: Catalogue,
  person: string,
  table: Table,
  { column: id, value }: Pick<Begin, 'column' | 'value'>,
): Result<null, Refusal> {
  const column = table.columns.find((one) => one.id === id);
  if (column === undefined) return fail(invalid(issue('unknown-column', ['column'], { name: id })));
  if (!isTypedIn(column)) return fail(invalid(issue('column-locked', ['column'], { label: column.label })));
  const read = columnValue(column, value);
  if (!read.ok) return fail(invalid(read.error));
  const { label } = column;
  if (read.value === null && column.required) return fail(invalid(issue('required', ['column'], { label })));
  if (read.value !== null && column.unique)
    return fail(invalid(issue('value-for-all', ['column'], { label })));
  if (table.linked?.changes === false)
    return fail(invalid(issue('edit-not-allowed', [], { action: 'change', table: table.label })));
  const values = { [id]: value };
  const wrong = forbiddenEdits(catalogue, person, [
    { t: 'change', table: table.id, id: '', version: 1, before: {}, values },
  ]);
  return wrong.length > 0 ? fail(invalid(...wrong)) : ok(null);
}
