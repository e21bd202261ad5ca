import { packageDescriptor } from '../../contract/data-package';
import { detect } from '../../core/import/detect';
import { tableTarget, type Target } from '../../core/import/relations';
import type { Detection, PackagedTable } from '../../core/import/detection';
import { asStrangers, packageClash } from '../../core/table/data-package';
import { keyColumns } from '../../core/table/key-columns';
import type { ImportRow } from '../../data/system/imports';
import type { Samples } from '../../core/import/import';
import { ok } from '../../core/kernel/result';
import { dropPieces, noteProgress, readImport, updateImport } from '../../data/system/imports';
import { readKey } from '../../data/runtime/tables/table-keys';
import { asOwner, asPerson } from '../../data/transaction';
import { descriptorIn } from '../../files/package';
import { RefusedFile } from '../../files/refused-file';
import { profiled, withMisses, type GivenFile } from '../../files/sheets';
import { withFiles } from './spooled-files';
import { keyFor } from '../../core/form/key';
import { newUuid } from '../../core/kernel/ids';

/** Reads the files of an import and notes what they propose. Done again after a crash, it does the same again. */
export async function readSheets(id: string): Promise<void> {
  const row = await current(id);
  if (row?.state !== 'reading') return;
  const abort = new AbortController();
  try {
    const found = await withFiles(row, (files) => detected(row, files, abort));
    await change(row, { state: 'proposed', ...found, progress: null });
  } catch (error) {
    if (abort.signal.aborted) return;
    if (!(error instanceof RefusedFile)) throw error;
    await change(row, { state: 'failed', fault: { code: error.fault, facts: error.facts }, progress: null });
  }
}

async function detected(
  row: ImportRow,
  files: readonly GivenFile[],
  abort: AbortController,
): Promise<{ detection: Detection; samples: Samples }> {
  const descriptor = await descriptorIn(files, abort.signal);
  if (descriptor !== undefined) return { detection: await packageDetected(row, descriptor), samples: {} };
  const told = every(500, (rows: number) => void tell(row, rows, abort).catch(unheard));
  const profiles = await profiled(files, told, abort.signal, row.decisions.headings);
  if (profiles.length === 0) throw new RefusedFile('empty');
  const detection = await withMisses(detect(profiles, await targetsFor(row)), files);
  return {
    detection,
    samples: Object.fromEntries(profiles.map((profile) => [profile.name, profile.samples])),
  };
}

async function packageDetected(row: ImportRow, descriptor: unknown): Promise<Detection> {
  const read = packageDescriptor.safeParse(descriptor);
  if (!read.success) throw new RefusedFile('broken-package');
  const there = await asPerson({ person: row.personId }, async (_tx, catalogue) =>
    ok([...catalogue.tables.values()]),
  );
  const taken = new Set(there.ok ? there.value.map(({ key }) => key) : []);
  const tables = asStrangers(
    read.data.resources.map(({ slateTable }) => slateTable),
    newUuid(),
    keyFor('colleagues_brought_in', taken, 'table'),
  );
  const packaged = tables.map((table, i): PackagedTable => ({
    table,
    path: read.data.resources[i]?.path ?? '',
  }));
  const clash = packageClash(
    packaged.map(({ table }) => table),
    there.ok ? there.value : [],
  );
  if (clash !== null) throw new RefusedFile(clash.clash, { tables: clash.tables });
  return { sheets: [], relations: [], packaged };
}

/** The keys of the tables that whoever imports may see. */
async function targetsFor(row: ImportRow): Promise<Target[]> {
  const read = await asPerson({ person: row.personId }, async (tx, catalogue) => {
    const targets: Target[] = [];
    for (const table of catalogue.tables.values())
      for (const column of keyColumns(table)) {
        const key = await readKey(tx, table, column);
        const kind = column.kind === 'whole' || column.kind === 'e-mail' ? column.kind : 'text';
        if (key !== null && key.records.length > 1)
          targets.push(
            tableTarget(
              { sheet: table.label, column: column.label },
              kind,
              { id: table.id, column: column.id },
              key.records.map(({ value }) => value),
            ),
          );
      }
    return ok(targets);
  });
  return read.ok ? read.value : [];
}

/** Notes how far it has come, and hears whether somebody has cancelled it. */
async function tell(row: ImportRow, rows: number, abort: AbortController): Promise<void> {
  await asOwner({ person: row.personId }, async (tx) =>
    ok(await noteProgress(tx, row.id, { rows, table: null })),
  );
  if ((await current(row.id))?.state === 'cancelled') abort.abort();
}

export async function current(id: string): Promise<ImportRow | null> {
  const read = await asOwner({ person: '' }, async (tx) => ok(await readImport(tx, id)));
  return read.ok ? read.value : null;
}

/** Only if nobody has moved it meanwhile. */
async function change(row: ImportRow, to: Parameters<typeof updateImport>[2]): Promise<void> {
  await asOwner({ person: row.personId }, async (tx) => {
    const now = await readImport(tx, row.id, true);
    if (now?.state !== row.state) return ok(null);
    await updateImport(tx, row.id, to);
    if (to.state === 'failed') await dropPieces(tx, row.id);
    return ok(null);
  });
}

/** How far something has come is told again soon; that it could not be told once stops nothing. */
export const unheard = (): void => undefined;

/** At most once in so many milliseconds. */
export function every<A extends unknown[]>(ms: number, work: (...args: A) => void): (...args: A) => void {
  let last = 0;
  return (...args) => {
    if (Date.now() - last < ms) return;
    last = Date.now();
    work(...args);
  };
}
