import { may, mayAll, tablesSeenWhole, type Catalogue } from '../../core/catalogue/catalogue';
import { isDeepStrictEqual } from 'node:util';
import type { ImportData, ImportSummary } from '../../contract/imports';
import { withHeadings, type Decisions } from '../../core/import/decisions';
import { namedTables } from '../../core/import/import-plan';
import { openAsks } from '../../core/import/open-asks';
import { planImport } from '../../core/import/plan-import';
import { keyFor } from '../../core/form/key';
import { isUuid } from '../../core/kernel/ids';
import { sameJson } from '../../core/kernel/same-json';
import { issue, type Issue } from '../../core/kernel/issue';
import type { Into } from '../../core/import/into-table';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { mayDesign } from '../../core/access/rules';
import { askImportJob, listImports, readImport, updateImport } from '../../data/system/imports';
import { asPerson } from '../../data/transaction';
import { mediaTypes, type Download } from '../../files/take-out';
import type { Context } from '../workspace/asking';
import { move } from './begin-import';

const RECENT = 20;

/** One's own imports, the newest first. */
export async function listOwnImports(
  context: Context,
): Promise<Result<{ imports: ImportSummary[] }, Refusal>> {
  if (!mayDesign(context.person)) return fail(forbidden('design'));
  return asPerson({ person: context.person.id }, async (tx) => {
    const rows = await listImports(tx, context.person.id, RECENT);
    return ok({
      imports: rows.map(({ id, state, files, result, updatedAt }) => ({
        id,
        state,
        files: files.map(({ name }) => name),
        tables: result?.tables.map(({ label }) => label) ?? [],
        updatedAt: updatedAt.toISOString(),
      })),
    });
  });
}

export async function openImport(context: Context, id: string): Promise<Result<ImportData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readImport(tx, id);
    if (row === null) return fail(notFound('import'));
    const { state, files, detection, samples, decisions, progress, fault, result, trial, version } = row;
    return ok({
      id,
      state,
      files,
      detection,
      samples: samples ?? {},
      decisions,
      progress,
      fault,
      result,
      trial,
      version,
      tables: tablesSeenWhole(catalogue, context.person.id),
    });
  });
}

export async function decideImport(
  context: Context,
  id: string,
  { version, decisions }: { version: number; decisions: Decisions },
): Promise<Result<{ version: number }, Refusal>> {
  return move(context, id, ['proposed', 'refused'], async (tx, row) => {
    // Sent again, because the answer to it was lost.
    if (row.version !== version && sameJson(row.decisions, decisions)) return ok({ version: row.version });
    if (row.version !== version) return fail(stale('import-changed'));
    // Whether the good rows are kept without the others changes nothing of what was tried out.
    const tried = isDeepStrictEqual(
      { ...row.decisions, refusedRows: null },
      JSON.parse(JSON.stringify({ ...decisions, refusedRows: null })),
    );
    await updateImport(tx, id, { decisions, trial: tried ? row.trial : null });
    return ok({ version: version + 1 });
  });
}

/** Has the files read anew with the headings of a sheet in another row; 0 for a sheet without any. */
export async function readWithHeadings(
  context: Context,
  id: string,
  { version, sheet, row: at }: { version: number; sheet: string; row: number },
): Promise<Result<null, Refusal>> {
  return move(context, id, ['proposed', 'refused'], async (tx, row) => {
    if (row.version !== version) return fail(stale('import-changed'));
    const known = row.detection?.sheets.find(({ name }) => name === sheet);
    if (known === undefined || (at !== 0 && !known.top?.some((one) => one.row === at)))
      return fail(invalid(issue('malformed', ['row'])));
    await updateImport(tx, id, {
      state: 'reading',
      decisions: withHeadings(row.decisions, sheet, at),
      progress: { rows: 0, table: null },
      trial: null,
      result: null,
    });
    await askImportJob(tx, 'read-import', id);
    return ok(null);
  });
}

/** Lets a job make the tables, or try it out first. What was asked must be answered before. */
export const acceptImport = (
  context: Context,
  id: string,
  input: { version: number },
): Promise<Result<null, Refusal>> => askFor(context, id, input, 'keeping');
export const tryOutImport = (
  context: Context,
  id: string,
  input: { version: number },
): Promise<Result<null, Refusal>> => askFor(context, id, input, 'trying');

async function askFor(
  context: Context,
  id: string,
  { version }: { version: number },
  state: 'keeping' | 'trying',
): Promise<Result<null, Refusal>> {
  if (!mayDesign(context.person)) return fail(forbidden('design'));
  return move(context, id, ['proposed', 'refused'], async (tx, row, catalogue) => {
    if (row.version !== version) return fail(stale('import-changed'));
    if (row.detection === null) return fail(notFound('import'));
    const open = openAsks(row.detection, row.decisions);
    if (open.length > 0)
      return fail(
        invalid(...open.map(({ path, ask }) => issue('missing', ['columns', path], { what: ask.t }))),
      );
    if (row.detection.packaged === undefined) {
      const seen = tablesSeenWhole(catalogue, context.person.id);
      const plan = planImport(id, row.detection, row.decisions, seen);
      if (plan.tables.length === 0) return fail(invalid(issue('columns-missing', ['sheets'])));
      // What a column names was said by the browser; what is there is told to nobody who may not see it.
      if (!namedTables(plan).every((table) => seen.some((one) => one.id === table)))
        return fail(notFound('table'));
      for (const { into } of plan.tables)
        if (into !== null && !mayBringInto(catalogue, context.person.id, into.table))
          return fail(forbidden('design-table'));
      const fixed = plan.tables.flatMap(({ into }) => (into === null ? [] : fixedOutside(catalogue, into)));
      if (fixed.length > 0) return fail(invalid(...fixed));
    }
    await updateImport(tx, id, { state, progress: { rows: 0, table: null }, result: null, trial: null });
    await askImportJob(tx, state === 'keeping' ? 'keep-import' : 'try-import', id);
    return ok(null);
  });
}

/** Whole sheets are brought into a table by those who design it, or who may see, add and change any of its records one by one. */
const mayBringInto = (catalogue: Catalogue, person: string, table: string): boolean =>
  may(catalogue, person, 'design', table) ||
  (['see', 'add', 'change'] as const).every((action) => mayAll(catalogue, person, action, table));

/** What a source outside, or the directory of people, keeps to itself. */
function fixedOutside(catalogue: Catalogue, { table: id, what }: Into): Issue[] {
  const { linked = null, label = '' } = catalogue.tables.get(id) ?? {};
  if (linked === null) return [];
  const facts = { table: label, source: linked.source };
  return [
    ...(what !== 'change' && !linked.adds ? [issue('linked-no-adding', ['sheets'], facts)] : []),
    ...(what !== 'add' && !linked.changes ? [issue('source-fixed', ['sheets'], facts)] : []),
  ];
}

/** The rows of one sheet that were refused last, as a file to mend and bring again. */
export async function readRefusedRows(
  context: Context,
  id: string,
  { sheet }: { sheet: string },
): Promise<Result<Download, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const file = isUuid(id) ? (await readImport(tx, id))?.refusedRows?.[sheet] : undefined;
    return file === undefined
      ? fail(notFound('import'))
      : ok({
          name: `${keyFor(sheet, new Set(), 'sheet')}_to_fix.csv`,
          type: mediaTypes.csv,
          body: once(file),
        });
  });
}

async function* once(text: string): AsyncGenerator<Uint8Array> {
  yield Buffer.from(text);
}
