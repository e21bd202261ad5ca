import { notFound, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import type { Table } from '../core/table/model';
import { recordsAfter } from '../data/runtime/records';
import { readTables } from '../data/runtime/tables';
import { asPerson } from '../data/transaction';
import { mediaTypes, written, type Download, type ExportFormat, type TakenRow } from '../files/take-out';
import type { Context } from './asking';
import { seenTable } from './read-tables';

/** Records a query, so that no transaction lasts as long as the export. */
const AT_ONCE = 2_000;

/** A table as a file, streamed. Who asks gets the records they may see, each as it is when its turn comes. */
export async function exportTable(context: Context, key: string, format: ExportFormat): Promise<Result<Download, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const table = await seenTable(tx, await readTables(tx), key);
    return table === null ? fail(notFound('table')) : ok({ name: `${table.key}.${format}`, type: mediaTypes[format], body: written(format, { name: table.label, columns: table.columns, rows: recordsOf(context, table) }) });
  });
}

async function* recordsOf(context: Context, table: Table): AsyncGenerator<TakenRow[]> {
  for (let last: string | null = null; ; ) {
    const some = await asPerson({ person: context.person.id }, async (tx) => ok(await recordsAfter(tx, await readTables(tx), table, last, AT_ONCE)));
    if (!some.ok || some.value.length === 0) return;
    yield some.value.map(({ number, cells }) => ({ number, cells: table.columns.map(({ id }) => cells[id] ?? null) }));
    last = some.value.at(-1)?.id ?? null;
  }
}
