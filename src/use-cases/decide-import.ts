import type { ImportData, ImportSummary } from '../contract/imports';
import type { Decisions } from '../core/import/decisions';
import { openAsks, planImport } from '../core/import/import-plan';
import { issue } from '../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import { mayDesign } from '../core/access/rules';
import { readTables } from '../data/runtime/tables';
import { askImportJob, listImports, readImport, updateImport } from '../data/system/imports';
import { asPerson } from '../data/transaction';
import type { Context } from './asking';
import { move } from './begin-import';

const RECENT = 20;

/** One's own imports, the newest first. */
export async function listOwnImports(context: Context): Promise<Result<{ imports: ImportSummary[] }, Refusal>> {
  if (!mayDesign(context.person)) return fail(forbidden('design'));
  return asPerson({ person: context.person.id }, async (tx) => {
    const rows = await listImports(tx, context.person.id, RECENT);
    return ok({ imports: rows.map(({ id, state, files, result, updatedAt }) => ({ id, state, files: files.map(({ name }) => name), tables: result?.tables.map(({ label }) => label) ?? [], updatedAt: updatedAt.toISOString() })) });
  });
}

export async function openImport(context: Context, id: string): Promise<Result<ImportData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const row = await readImport(tx, id);
    if (row === null) return fail(notFound('import'));
    const { state, files, detection, samples, decisions, progress, fault, result, version } = row;
    const tables = [...(await readTables(tx)).values()];
    return ok({ id, state, files, detection, samples: samples ?? {}, decisions, progress, fault, result, version, taken: { keys: tables.map(({ key }) => key), prefixes: tables.map(({ prefix }) => prefix) } });
  });
}

export async function decideImport(context: Context, id: string, { version, decisions }: { version: number; decisions: Decisions }): Promise<Result<{ version: number }, Refusal>> {
  return move(context, id, ['proposed', 'refused'], async (tx, row) => {
    if (row.version !== version) return fail(stale('import-changed'));
    await updateImport(tx, id, { decisions });
    return ok({ version: version + 1 });
  });
}

/** Lets a job make the tables. What was asked must be answered first. */
export async function acceptImport(context: Context, id: string, { version }: { version: number }): Promise<Result<null, Refusal>> {
  if (!mayDesign(context.person)) return fail(forbidden('design'));
  return move(context, id, ['proposed', 'refused'], async (tx, row) => {
    if (row.version !== version) return fail(stale('import-changed'));
    if (row.detection === null) return fail(notFound('import'));
    const open = openAsks(row.detection, row.decisions);
    if (open.length > 0) return fail(invalid(...open.map(({ path, ask }) => issue('missing', ['columns', path], { what: ask.t }))));
    if (planImport(id, row.detection, row.decisions).tables.length === 0) return fail(invalid(issue('columns-missing', ['sheets'])));
    await updateImport(tx, id, { state: 'keeping', progress: { rows: 0, table: null }, result: null });
    await askImportJob(tx, 'keep-import', id);
    return ok(null);
  });
}
