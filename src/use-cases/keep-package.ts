import { seeNewTables } from '../core/access/rules';
import { issue } from '../core/kernel/issue';
import type { PackagedTable } from '../core/import/detection';
import type { ImportResult } from '../core/import/import';
import { invalid, stale, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import { packageClash, packagedKeys } from '../core/table/data-package';
import type { Table } from '../core/table/model';
import { tableIssues } from '../core/table/table-issues';
import type { FileFault } from '../core/wording/file-sentence';
import type { Tx } from '../data/connect';
import { databaseFault } from '../data/field-issues';
import { madeBy, stampLoaded } from '../data/runtime/load-rows';
import { loadPackaged } from '../data/runtime/packaged-rows';
import { finishTables, makeBareTables, readTables, withRetired } from '../data/runtime/tables';
import { dropPieces, oneImportAtATime, readImport, updateImport, type ImportRow } from '../data/system/imports';
import { asOwner, asOwnerCopying, type CopyInto } from '../data/transaction';
import type { ResourceRows } from '../files/package';
import { RefusedFile } from '../files/refused-file';

/** Makes the tables of a Data Package as they were, with their records, numbers and references, in one transaction. */
export async function keepPackage(row: ImportRow, packaged: readonly PackagedTable[], rowsOf: ResourceRows): Promise<void> {
  const kept = await asOwnerCopying({ person: row.personId }, (tx, copy) => made(tx, copy, row, packaged, rowsOf)).catch((error: unknown) => brokenBy(error));
  if (kept.ok || (kept.error.kind === 'stale' && kept.error.why === 'import-moved')) return;
  if (kept.error.kind !== 'invalid') throw new Error(`the package was refused: ${kept.error.kind}`);
  const [why] = kept.error.issues;
  await asOwner({ person: row.personId }, async (tx) => {
    if ((await readImport(tx, row.id, true))?.state !== 'keeping') return ok(null);
    await updateImport(tx, row.id, { state: 'failed', progress: null, fault: { code: faultOf(why?.facts['fault']), facts: { tables: String(why?.facts['tables'] ?? '') } } });
    await dropPieces(tx, row.id);
    return ok(null);
  });
}

const faultOf = (fault: unknown): FileFault => (fault === 'tables-there' || fault === 'tables-missing' ? fault : 'broken-package');

async function made(tx: Tx, copy: CopyInto, row: ImportRow, packaged: readonly PackagedTable[], rowsOf: ResourceRows): Promise<Result<null, Refusal>> {
  await oneImportAtATime(tx, row.id);
  if ((await readImport(tx, row.id, true))?.state !== 'keeping') return fail(stale('import-moved'));
  const tables = packaged.map(({ table }) => table);
  const there = await readTables(tx);
  const clash = packageClash(tables, [...there.values()]);
  if (clash !== null) return fail(invalid(issue('malformed', ['package'], { fault: clash.clash, tables: clash.tables })));
  const all = new Map([...there, ...tables.map((table) => [table.id, table] as const)]);
  const issues = tables.flatMap((table) => tableIssues(table, null, new Map([...all].filter(([id]) => id !== table.id))));
  if (issues.length > 0) return fail(invalid(issue('malformed', ['package'], { fault: 'broken-package' })));
  const result: ImportResult['tables'][number][] = [];
  await makeBareTables(tx, tables, seeNewTables);
  for (const { table, path } of packaged) result.push({ key: table.key, label: table.label, records: await filled(tx, copy, row, table, rowsOf(path)) });
  await finishTables(tx, tables.map(withRetired), (id) => all.get(id)?.key ?? '');
  for (const table of tables) await stampLoaded(tx, table, row.personId);
  await updateImport(tx, row.id, { state: 'kept', progress: null, result: { tables: result, refused: 0, refusals: [] } });
  await dropPieces(tx, row.id);
  return ok(null);
}

async function filled(tx: Tx, copy: CopyInto, row: ImportRow, table: Table, rows: AsyncGenerator<(string | null)[][]>): Promise<number> {
  await madeBy(tx, table, row.personId);
  return loadPackaged(tx, copy, table, withoutHeadings(table, rows));
}

async function* withoutHeadings(table: Table, rows: AsyncGenerator<(string | null)[][]>): AsyncGenerator<(string | null)[][]> {
  let first = true;
  for await (const some of rows) {
    const [headings] = some;
    if (first && headings?.join() !== packagedKeys(table).join()) throw new RefusedFile('broken-package');
    yield first ? some.slice(1) : some;
    first = false;
  }
  if (first) throw new RefusedFile('broken-package');
}

/** Rows that are not as they were taken out: values that are none, numbers or ids that come twice, references to nothing. */
function brokenBy(error: unknown): Result<never, Refusal> {
  const code = databaseFault(error)?.code ?? '';
  if (error instanceof RefusedFile || code.startsWith('22') || code.startsWith('23')) return fail(invalid(issue('malformed', ['package'], { fault: 'broken-package' })));
  throw error;
}
