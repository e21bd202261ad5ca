import type { Catalogue } from '../../core/catalogue/catalogue';
import { seeNewTables } from '../../core/access/rules';
import { issue } from '../../core/kernel/issue';
import type { PackagedTable } from '../../core/import/detection';
import type { ImportResult } from '../../core/import/import';
import { invalid, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { listPlaces, packageClash, packagedKeys } from '../../core/table/data-package';
import { withListOf, type ListsById } from '../../core/table/choice-list';
import type { Column, Table } from '../../core/table/model';
import { tableIssues } from '../../core/table/table-issues';
import type { FileFault } from '../../core/wording/file-sentence';
import type { Tx } from '../../data/connect';
import { databaseFault } from '../../data/field-issues';
import { madeBy, stampLoaded } from '../../data/runtime/imports/load-rows';
import { loadPackaged } from '../../data/runtime/imports/packaged-rows';
import { settleFormulas } from '../../data/runtime/tables/calculated';
import { holdChecks } from '../../data/runtime/tables/hold-checks';
import {
  finishTables,
  makeBareTables,
  oneTableChangeAtATime,
  withRetired,
} from '../../data/runtime/tables/tables';
import { keepList } from '../../data/system/choice-lists';
import {
  dropPieces,
  oneImportAtATime,
  readImport,
  updateImport,
  type ImportRow,
} from '../../data/system/imports';
import { asOwner, asOwnerCopying, type CopyInto } from '../../data/transaction';
import type { ResourceRows } from '../../files/package';
import { RefusedFile } from '../../files/refused-file';
import { listFromJson } from '../../core/table/kinds/stored-list';

/** Makes the tables of a Data Package as they were, with their records, numbers and references, in one transaction. */
export async function keepPackage(
  row: ImportRow,
  packaged: readonly PackagedTable[],
  rowsOf: ResourceRows,
): Promise<void> {
  const kept = await asOwnerCopying({ person: row.personId }, (tx, copy) =>
    made(tx, copy, row, packaged, rowsOf),
  ).catch((error: unknown) => brokenBy(error));
  if (kept.ok || (kept.error.kind === 'stale' && kept.error.why === 'import-moved')) return;
  if (kept.error.kind !== 'invalid') throw new Error(`the package was refused: ${kept.error.kind}`);
  const [why] = kept.error.issues;
  await asOwner({ person: row.personId }, async (tx) => {
    if ((await readImport(tx, row.id, true))?.state !== 'keeping') return ok(null);
    await updateImport(tx, row.id, {
      state: 'failed',
      progress: null,
      fault: { code: faultOf(why?.facts['fault']), facts: { tables: String(why?.facts['tables'] ?? '') } },
    });
    await dropPieces(tx, row.id);
    return ok(null);
  });
}

const faultOf = (fault: unknown): FileFault =>
  fault === 'tables-there' || fault === 'tables-missing' ? fault : 'broken-package';

async function made(
  tx: Tx,
  copy: CopyInto,
  row: ImportRow,
  packaged: readonly PackagedTable[],
  rowsOf: ResourceRows,
): Promise<Result<null, Refusal>> {
  await oneImportAtATime(tx, row.id);
  if ((await readImport(tx, row.id, true))?.state !== 'keeping') return fail(stale('import-moved'));
  const catalogue = await oneTableChangeAtATime(tx);
  const there = catalogue.tables;
  const tables = await withTheirLists(
    tx,
    catalogue,
    packaged.map(({ table }) => table),
    row.personId,
  );
  const clash = packageClash(tables, [...there.values()]);
  if (clash !== null)
    return fail(invalid(issue('malformed', ['package'], { fault: clash.clash, tables: clash.tables })));
  const all = new Map([...there, ...tables.map((table) => [table.id, table] as const)]);
  const issues = tables.flatMap((table) =>
    tableIssues(table, null, new Map([...all].filter(([id]) => id !== table.id))),
  );
  if (issues.length > 0) return fail(invalid(issue('malformed', ['package'], { fault: 'broken-package' })));
  const result: ImportResult['tables'][number][] = [];
  await makeBareTables(tx, tables, seeNewTables, 'stamped');
  for (const [i, { path }] of packaged.entries()) {
    const table = tables[i];
    if (table !== undefined)
      result.push({
        key: table.key,
        label: table.label,
        records: await filled(tx, copy, row, table, rowsOf(path)),
      });
  }
  await finishTables(tx, tables.map(withRetired), (id) => all.get(id)?.key ?? '');
  await settleFormulas(tx, tables, all);
  for (const table of tables) await holdChecks(tx, table, all);
  for (const table of tables) await stampLoaded(tx, table, row.personId, false);
  await updateImport(tx, row.id, {
    state: 'kept',
    progress: null,
    result: { tables: result, refused: 0, refusals: [] },
  });
  await dropPieces(tx, row.id);
  return ok(null);
}

/**
 * Choice lists that are not there yet are made of what the tables say of them; one that is there and has not
 * all of their choices leaves them their own.
 */
async function withTheirLists(
  tx: Tx,
  catalogue: Catalogue,
  tables: readonly Table[],
  by: string,
): Promise<Table[]> {
  const lists = new Map(catalogue.lists);
  for (const { list, choices } of tables.flatMap(({ columns, retired }) => [...columns, ...retired])) {
    if (list === null || lists.has(list.id)) continue;
    const made = { id: list.id, label: freeLabel(list.label, lists), description: '', choices, version: 1 };
    lists.set(list.id, made);
    await keepList(tx, made, by);
  }
  const settled = (column: Column): Column => {
    const codes = new Set(lists.get(column.list?.id ?? '')?.choices.map(({ code }) => code));
    return column.choices.every(({ code }) => codes.has(code))
      ? withListOf(column, lists)
      : { ...column, list: null };
  };
  return tables.map((table) => ({
    ...table,
    columns: table.columns.map(settled),
    retired: table.retired.map(settled),
  }));
}

function freeLabel(label: string, lists: ListsById): string {
  const taken = new Set([...lists.values()].map((one) => one.label.toLowerCase()));
  for (let n = 1; ; n++) {
    const free = n === 1 ? label : `${label} (${n})`;
    if (!taken.has(free.toLowerCase())) return free;
  }
}

async function filled(
  tx: Tx,
  copy: CopyInto,
  row: ImportRow,
  table: Table,
  rows: AsyncGenerator<(string | null)[][]>,
): Promise<number> {
  await madeBy(tx, table, row.personId);
  return loadPackaged(tx, copy, table, withoutHeadings(table, rows));
}

async function* withoutHeadings(
  table: Table,
  rows: AsyncGenerator<(string | null)[][]>,
): AsyncGenerator<(string | null)[][]> {
  const lists = listPlaces(table);
  let first = true;
  for await (const some of rows) {
    const [headings] = some;
    if (first && headings?.join() !== packagedKeys(table).join()) throw new RefusedFile('broken-package');
    yield (first ? some.slice(1) : some).map((row) =>
      row.map((cell, i) => (lists.has(i) ? listOf(cell) : cell)),
    );
    first = false;
  }
  if (first) throw new RefusedFile('broken-package');
}

/** A list of a file as PostgreSQL reads it. */
function listOf(cell: string | null): string | null {
  if (cell === null || cell === '') return null;
  const list = listFromJson(cell);
  if (list === null) throw new RefusedFile('broken-package');
  return list;
}

/** Rows that are not as they were taken out: values that are none, numbers or ids that come twice, references to nothing. */
function brokenBy(error: unknown): Result<never, Refusal> {
  const code = databaseFault(error)?.code ?? '';
  if (error instanceof RefusedFile || code.startsWith('22') || code.startsWith('23'))
    return fail(invalid(issue('malformed', ['package'], { fault: 'broken-package' })));
  throw error;
}
