import type { Catalogue } from '../../core/catalogue/catalogue';
import { reader } from '../../core/import/convert';
import { newUuid } from '../../core/kernel/ids';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Refreshed } from '../../core/link/link';
import type { ListRows } from '../../core/link/list-rows';
import { sourceFault, type SourceFault } from '../../core/link/source';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { databaseFault, fieldIssue } from '../../data/field-issues';
import {
  closeSource,
  noteSource,
  openSource,
  patience,
  SecretLost,
} from '../../data/runtime/links/open-source';
import { pinServer } from '../../data/runtime/links/link-tables';
import type { StagedRow } from '../../data/runtime/imports/merge-rows';
import { linkedColumns, stageEntries, stageFromTable, takeIn } from '../../data/runtime/links/refresh-rows';
import {
  askRefreshJob,
  dueLinks,
  linksOf,
  readLink,
  updateLink,
  type LinkRow,
  type SourceRow,
} from '../../data/system/links';
import { asOwner, asOwnerInSteps } from '../../data/transaction';
import { logFault } from '../workspace/log-fault';
import { reachable } from '../../outside/reach';
import { foundList } from './look-at-source';

const NOBODY = { person: '' };

/** What came of a refresh; null when somebody else is at it, or the table is in use: then the next one does it. */
type Outcome =
  | { readonly t: 'refreshed'; readonly refreshed: Refreshed }
  | { readonly t: 'failed'; readonly fault: SourceFault }
  | null;

/**
 * Makes the copy of a linked table what its source holds now. When that fails, the last good copy stays, and
 * the reason is kept with it.
 */
export async function refreshLink(tableId: string): Promise<void> {
  const found = await asOwner(NOBODY, async (tx, catalogue) =>
    ok({ known: await readLink(tx, tableId), catalogue }),
  );
  if (!found.ok || found.value.known === null) return;
  const {
    known: { link, source },
    catalogue,
  } = found.value;
  const { tables } = catalogue;
  const table = tables.get(tableId);
  if (table === undefined) return;
  const outcome = await attempt(link, source, table, catalogue).catch((error: unknown): Outcome => ({
    t: 'failed',
    fault: faultOf(error, table),
  }));
  if (outcome === null) return;
  await noteSource(source.id, outcome.t !== 'failed' || outcome.fault.code !== 'no-answer');
  await asOwner(NOBODY, async (tx) => {
    const now = new Date();
    if (outcome.t === 'failed') await updateLink(tx, tableId, { triedAt: now, fault: outcome.fault });
    else {
      await updateLink(tx, tableId, {
        triedAt: now,
        refreshedAt: now,
        fault: null,
        refreshed: outcome.refreshed,
      });
      // What refers to records that have only now come finds them.
      if (outcome.refreshed.added > 0)
        for (const one of await linksOf(tx, source.id))
          if (one.tableId !== tableId && refersTo(tables.get(one.tableId), one, tableId))
            await askRefreshJob(tx, one.tableId);
    }
    return ok(null);
  });
}

const refersTo = (table: Table | undefined, { mapping }: LinkRow, target: string): boolean =>
  mapping.t === 'table' &&
  mapping.columns.some(
    ({ column, refers }) =>
      refers !== null && table?.columns.find(({ id }) => id === column)?.target === target,
  );

async function attempt(
  { mapping }: LinkRow,
  source: SourceRow,
  table: Table,
  { tables, workspace }: Catalogue,
): Promise<Outcome> {
  if (mapping.t === 'table') {
    const at = source.address.t === 'database' ? await reachable(source.address.host) : null;
    if (at === 'inside') return { t: 'failed', fault: sourceFault('inside') };
    if (at === null) return { t: 'failed', fault: sourceFault('no-answer') };
    return outcomeOf(
      await asOwnerInSteps(
        NOBODY,
        table.id,
        async (tx) => {
          await pinServer(tx, source.id, at.address);
          await openSource(tx, source, patience.job);
          await stageFromTable(tx, table, mapping, tables);
          await closeSource(tx, source);
          return ok(0);
        },
        (tx) => takenIn(tx, table, mapping),
      ),
      0,
    );
  }
  const list = await foundList(source, mapping.at);
  if (!list.ok) return { t: 'failed', fault: list.error };
  const lost = mapping.columns.filter(({ field }) => !list.value.fields.includes(field));
  if (lost.length > 0)
    return {
      t: 'failed',
      fault: sourceFault('columns-gone', { columns: lost.map(({ field }) => `“${field}”`).join(', ') }),
    };
  const entries = new Entries(list.value, table, mapping, workspace.zone);
  return outcomeOf(
    await asOwnerInSteps(
      NOBODY,
      table.id,
      async (tx, copy) => ok(await stageEntries(tx, copy, table, mapping, entries.rows())),
      (tx) => takenIn(tx, table, mapping),
    ),
    () => entries.misfits,
  );
}

/** A link that was ended while its source was read brings nothing more. */
async function takenIn(
  tx: Tx,
  table: Table,
  mapping: LinkRow['mapping'],
): Promise<Result<Refreshed, Refusal>> {
  return (await readLink(tx, table.id)) === null
    ? fail(notFound('table'))
    : ok(await takeIn(tx, table, mapping));
}

function outcomeOf(
  done: Awaited<ReturnType<typeof asOwnerInSteps<unknown, Refreshed>>>,
  more: number | (() => number),
): Outcome {
  if (done === null || !done.ok) return null;
  return {
    t: 'refreshed',
    refreshed: { ...done.value, misfits: done.value.misfits + (typeof more === 'number' ? more : more()) },
  };
}

const SOME = 1_000;

/** The entries of a list as rows; a value that does not fit its column is left empty, and counted. */
class Entries {
  misfits = 0;

  constructor(
    private readonly list: ListRows,
    private readonly table: Table,
    private readonly mapping: Extract<LinkRow['mapping'], { t: 'list' }>,
    private readonly zone: string,
  ) {}

  async *rows(): AsyncGenerator<StagedRow[]> {
    const columns = linkedColumns(this.table, this.mapping);
    const readers = this.mapping.columns.flatMap(({ column: id, field, reading }) =>
      columns
        .filter((one) => one.id === id)
        .map((column) => ({
          field,
          read: reader({ column: { ...column, required: false }, reading }, this.zone),
        })),
    );
    for (let at = 0; at < this.list.rows.length; at += SOME) {
      yield this.list.rows.slice(at, at + SOME).map((entry, i): StagedRow => ({
        id: newUuid(),
        row: at + i + 1,
        values: readers.map(({ field, read }) => {
          const converted = read(entry.get(field) ?? '');
          if ('value' in converted) return converted.value;
          this.misfits++;
          return null;
        }),
      }));
    }
  }
}

/** Why a source could not be read, from what was thrown. What nobody foresaw is logged. */
function faultOf(error: unknown, table: Table): SourceFault {
  if (error instanceof SecretLost) return sourceFault('secret-lost');
  const { code = '', message = '', detail = '' } = databaseFault(error) ?? {};
  const words = `${message} ${detail}`;
  if (code.startsWith('08'))
    return sourceFault(
      /authentication failed|no pg_hba|password is required/.test(words)
        ? 'sign-in-refused'
        : /does not exist/.test(words)
          ? 'not-there'
          : 'no-answer',
    );
  // It took longer than anybody waits.
  if (code === '57014') return sourceFault('no-answer');
  if (code === '42P01' || code === '42501' || code === '3F000')
    return sourceFault('not-there', { what: table.label });
  if (code === '42703') return sourceFault('columns-gone', { columns: 'some of its columns' });
  const column = fieldIssue(error, { ...table, linked: null })?.facts['label'];
  if (code.startsWith('22') || code.startsWith('23'))
    return sourceFault('values-unfit', typeof column === 'string' ? { column } : {});
  return sourceFault('fault', { reference: logFault(error, 'refresh of a linked table') });
}

/** Asks for all refreshes whose time has come; the clock of the worker does so every minute. */
export async function askDueRefreshes(): Promise<void> {
  await asOwner(NOBODY, async (tx) => {
    for (const id of await dueLinks(tx)) await askRefreshJob(tx, id);
    return ok(null);
  });
}
