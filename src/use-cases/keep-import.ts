import { seeNewTables } from '../core/access/rules';
import { fold, hashOf, tidy } from '../core/import/cell';
import type { Detection } from '../core/import/detection';
import type { ImportResult, RefusedCell } from '../core/import/import';
import { planImport, type ImportPlan, type PlannedTable } from '../core/import/import-plan';
import { RecordIds, RowMaker, type MadeRow } from '../core/import/rows';
import { invalid, stale, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import type { Table } from '../core/table/model';
import { workspaceZone } from '../core/workspace';
import type { Tx } from '../data/connect';
import { fieldIssue } from '../data/field-issues';
import { loadRows, madeBy, stampLoaded } from '../data/runtime/load-rows';
import { readKey } from '../data/runtime/table-keys';
import { finishTable, makeBareTable, readTables } from '../data/runtime/tables';
import { dropPieces, noteProgress, oneImportAtATime, readImport, updateImport, type ImportRow } from '../data/system/imports';
import { asOwner, asOwnerCopying, type CopyInto } from '../data/transaction';
import { reopened, type Reopen } from '../files/again';
import { current, every, unheard } from './read-import';
import { withFiles } from './spooled-files';

/** The refusals that are kept to be shown. */
const SHOWN = 500;

/**
 * Makes the tables of an accepted import and fills them, in one transaction: after a crash nothing of it is there, and the job begins again.
 * With refused rows nothing is kept, unless the owner said that the rest may be.
 */
export async function keepImport(id: string): Promise<void> {
  const row = await current(id);
  if (row?.state !== 'keeping' || row.detection === null) return;
  const abort = new AbortController();
  const filling = new Filling(row, row.detection, abort);
  await withFiles(row, async (files, folder) => {
    const reopen = await reopened(files, folder, abort.signal);
    const kept = await asOwnerCopying({ person: row.personId }, (tx, copy) => filling.fill(tx, copy, reopen)).catch((error: unknown) => filling.refusedByTable(error));
    if (!abort.signal.aborted && !kept.ok && kept.error.kind === 'invalid') await refused(row, filling.result());
  });
}

async function refused(row: ImportRow, result: ImportResult): Promise<void> {
  await asOwner({ person: row.personId }, async (tx) => {
    if ((await readImport(tx, row.id, true))?.state === 'keeping') await updateImport(tx, row.id, { state: 'refused', progress: null, result });
    return ok(null);
  });
}

/** One import on its way into its tables. */
class Filling {
  private readonly refusals: RefusedCell[] = [];
  private count = 0;
  private rows = 0;
  private made: ImportResult['tables'][number][] = [];
  private plan: ImportPlan = { tables: [] };
  private readonly tell: (table: string) => void;

  constructor(private readonly row: ImportRow, private readonly detection: Detection, private readonly abort: AbortController) {
    this.tell = every(500, (table) => void this.told(table).catch(unheard));
  }

  result(): ImportResult {
    return { tables: this.count > 0 && this.row.decisions.refusedRows === 'keep-nothing' ? [] : this.made, refused: this.count, refusals: this.refusals };
  }

  async fill(tx: Tx, copy: CopyInto, reopen: Reopen): Promise<Result<null, Refusal>> {
    await oneImportAtATime(tx, this.row.id);
    if ((await readImport(tx, this.row.id))?.state !== 'keeping') return fail(stale('import-moved'));
    const there = await readTables(tx);
    this.plan = planImport(this.row.id, this.detection, this.row.decisions, [...there.values()].map(({ key }) => key), [...there.values()].map(({ prefix }) => prefix));
    await this.load(tx, copy, reopen, await this.recordsThere(tx, there));
    if (this.abort.signal.aborted) return fail(stale('import-moved'));
    if (this.count > 0 && this.row.decisions.refusedRows === 'keep-nothing') return fail(invalid());
    const keys = new Map([...there.values(), ...this.plan.tables.map(({ table }) => table)].map(({ id, key }) => [id, key]));
    for (const { table } of this.plan.tables) {
      await finishTable(tx, table, (id) => keys.get(id) ?? '');
      await stampLoaded(tx, table, this.row.personId);
    }
    if ((await readImport(tx, this.row.id, true))?.state !== 'keeping') return fail(stale('import-moved'));
    await updateImport(tx, this.row.id, { state: 'kept', progress: null, result: this.result() });
    await dropPieces(tx, this.row.id);
    return ok(null);
  }

  /** What the tables themselves would not take, said at its column; anything else is a fault. */
  refusedByTable(error: unknown): Result<never, Refusal> {
    for (const { table, sheet } of this.plan.tables) {
      const issue = fieldIssue(error, table);
      if (issue === null) continue;
      this.refuse({ sheet, row: 0, column: String(issue.facts['label'] ?? ''), text: '', code: issue.code === 'already-used' ? 'twice' : issue.code });
      return fail(invalid(issue));
    }
    if (this.abort.signal.aborted) return fail(stale('import-moved'));
    throw error;
  }

  /** The records of tables there are already, by what names them. */
  private async recordsThere(tx: Tx, there: ReadonlyMap<string, Table>): Promise<Map<string, Map<number, string>>> {
    const found = new Map<string, Map<number, string>>();
    for (const { finds } of this.plan.tables.flatMap(({ columns }) => columns)) {
      const table = there.get(finds?.table ?? '');
      const column = table?.columns.find(({ id }) => id === finds?.column);
      if (table === undefined || column === undefined || found.has(column.id)) continue;
      const key = await readKey(tx, table, column);
      found.set(column.id, new Map(key?.records.map(({ id, value }) => [hashOf(fold(tidy(value))), id])));
    }
    return found;
  }

  private async load(tx: Tx, copy: CopyInto, reopen: Reopen, there: ReadonlyMap<string, Map<number, string>>): Promise<void> {
    const wanted = new Set(this.plan.tables.flatMap(({ columns }) => columns.flatMap(({ finds }) => (finds === null ? [] : [finds.column]))));
    const found = new Map([...wanted].map((id) => [id, there.get(id) ?? new Map<number, string>()]));
    const ids = new Map(this.plan.tables.map(({ table }, i) => [table.id, new RecordIds(this.row.id, i)]));
    const refusedRows = new Map<string, Set<number>>();
    for (const plan of this.plan.tables) {
      const { table, sheet } = plan;
      if (!refusedRows.has(sheet)) refusedRows.set(sheet, new Set());
      const maker = new RowMaker({
        plan, found, noted: found, ids: ids.get(table.id) ?? new RecordIds(this.row.id, 0), parentIds: ids.get(table.parent ?? '') ?? null,
        refusedRows: refusedRows.get(sheet) ?? new Set(), refuse: (cell) => this.refuse(cell),
      });
      if (plan.columns.some(({ finds }) => finds?.table === table.id)) for await (const some of reopen(sheet)) maker.names(some, this.headerOf(sheet));
      await makeBareTable(tx, table, seeNewTables);
      await madeBy(tx, table, this.row.personId);
      const records = await loadRows(tx, copy, table, yearNow(), this.madeRows(plan, maker, reopen));
      this.made.push({ key: table.key, label: table.label, records });
    }
  }

  private async *madeRows({ table, sheet }: PlannedTable, maker: RowMaker, reopen: Reopen): AsyncGenerator<MadeRow[]> {
    for await (const some of reopen(sheet, this.abort.signal)) {
      this.rows += some.rows.length;
      this.tell(table.label);
      yield [...maker.rows(some, this.headerOf(sheet))];
    }
    yield [...maker.rest()];
  }

  private headerOf(sheet: string): number {
    return this.detection.sheets.find(({ name }) => name === sheet)?.headerRow ?? 0;
  }

  private refuse(cell: RefusedCell): void {
    if (++this.count <= SHOWN) this.refusals.push(cell);
  }

  /** How far it has come goes by another connection, for this transaction is not seen until its end. */
  private async told(table: string): Promise<void> {
    await asOwner({ person: this.row.personId }, async (tx) => ok(await noteProgress(tx, this.row.id, { rows: this.rows, table })));
    if ((await current(this.row.id))?.state === 'cancelled') this.abort.abort();
  }
}

const yearNow = (): number => Number(new Intl.DateTimeFormat('en-GB', { year: 'numeric', timeZone: workspaceZone }).format(new Date()));

/** The job has failed for good: the import says so instead of waiting for ever. */
export async function giveUpImport(id: string): Promise<void> {
  const row = await current(id);
  if (row === null) return;
  await asOwner({ person: row.personId }, async (tx) => {
    const now = await readImport(tx, id, true);
    if (now?.state !== 'reading' && now?.state !== 'keeping') return ok(null);
    await updateImport(tx, id, { state: 'failed', fault: { code: 'fault', facts: {} }, progress: null });
    await dropPieces(tx, id);
    return ok(null);
  });
}
