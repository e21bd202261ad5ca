import { seenTable, tablesFor } from '../../core/catalogue/catalogue';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { dataPackage, withWhatItNeeds, withoutUnusedPeople } from '../../core/table/data-package';
import type { Table } from '../../core/table/model';
import { portableSql } from '../../core/table/portable-sql';
import { packagedRows } from '../../data/runtime/imports/packaged-rows';
import { recordsAfter } from '../../data/runtime/records/records';
import { asPerson } from '../../data/transaction';
import {
  mediaTypes,
  written,
  zipped,
  type Download,
  type ExportFormat,
  type TakenRow,
} from '../../files/take-out';
import type { Context } from '../workspace/asking';

/** Records a query, so that no transaction lasts as long as the export. */
const AT_ONCE = 2_000;

/** Table formats, and those that carry how it is designed. */
export type TakeOutAs = ExportFormat | 'package' | 'sql';

/** A table as a file, with how it is designed where the format has a word for that. */
export async function takeOutTable(
  context: Context,
  key: string,
  as: TakeOutAs,
): Promise<Result<Download, Refusal>> {
  if (as !== 'package' && as !== 'sql') return exportTable(context, key, as);
  return asPerson({ person: context.person.id }, async (_tx, catalogue) => {
    const tables = new Map(tablesFor(catalogue, context.person.id, 'see').map((table) => [table.id, table]));
    const table = [...tables.values()].find((one) => one.key === key);
    if (table === undefined) return fail(notFound('table'));
    if (as === 'sql')
      return ok({
        name: `${table.key}.sql`,
        type: 'application/sql; charset=utf-8',
        body: onePiece(portableSql(table, tables)),
      });
    return ok(packaged(context, table.key, table.label, withWhatItNeeds(table, tables)));
  });
}

/** Every table this person may see as one Data Package. */
export async function takeOutWorkspace(context: Context): Promise<Result<Download, Refusal>> {
  return asPerson({ person: context.person.id }, async (_tx, catalogue) =>
    ok(
      packaged(
        context,
        'workspace',
        'All tables',
        withoutUnusedPeople(tablesFor(catalogue, context.person.id, 'see')),
      ),
    ),
  );
}

const packaged = (context: Context, name: string, title: string, tables: readonly Table[]): Download => ({
  name: `${name}-package.zip`,
  type: 'application/zip',
  body: zipped(
    dataPackage(name.replaceAll('_', '-'), title, context.now.toISOString(), tables),
    ({ slateTable }) => packagedRowsOf(context, slateTable),
  ),
});

/** A batch that is refused is thrown: ending the file there would make it look whole. */
function rowsOr<T>(some: Result<T[], Refusal>): T[] {
  if (!some.ok) throw new Error(`an export was refused half way: ${some.error.kind}`);
  return some.value;
}

async function* packagedRowsOf(context: Context, table: Table): AsyncGenerator<(string | null)[][]> {
  for (let last: string | null = null; ;) {
    const some = await asPerson({ person: context.person.id }, async (tx) =>
      ok(await packagedRows(tx, table, last, AT_ONCE)),
    );
    const rows = rowsOr(some);
    if (rows.length === 0) return;
    yield rows;
    last = rows.at(-1)?.[0] ?? null;
  }
}

async function* onePiece(text: string): AsyncGenerator<Uint8Array> {
  yield Buffer.from(text);
}

/** A table as a file, streamed. Who asks gets the records they may see, each as it is when its turn comes. */
export async function exportTable(
  context: Context,
  key: string,
  format: ExportFormat,
): Promise<Result<Download, Refusal>> {
  return asPerson({ person: context.person.id }, async (_tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    return table === null
      ? fail(notFound('table'))
      : ok({
          name: `${table.key}.${format}`,
          type: mediaTypes[format],
          body: written(format, {
            name: table.label,
            columns: table.columns,
            rows: recordsOf(context, table),
          }),
        });
  });
}

async function* recordsOf(context: Context, table: Table): AsyncGenerator<TakenRow[]> {
  for (let last: string | null = null; ;) {
    const some = await asPerson({ person: context.person.id }, async (tx, catalogue) =>
      ok(await recordsAfter(tx, catalogue.tables, table, last, AT_ONCE)),
    );
    const records = rowsOr(some);
    if (records.length === 0) return;
    yield records.map(({ number, cells }) => ({
      number,
      cells: table.columns.map(({ id }) => cells[id] ?? null),
    }));
    last = records.at(-1)?.id ?? null;
  }
}
