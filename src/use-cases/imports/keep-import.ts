import { tablesSeenWhole } from '../../core/catalogue/catalogue';
import { seeNewTables } from '../../core/access/rules';
import { textOf } from '../../core/import/cell';
import type { Detection } from '../../core/import/detection';
import { withMade, working, type ImportResult, type RefusedCell } from '../../core/import/import';
import { namedTables, type ImportPlan, type PlannedTable } from '../../core/import/import-plan';
import { planImport } from '../../core/import/plan-import';
import type { Into } from '../../core/import/into-table';
import { eachMade, RecordIds, type MadeRows } from '../../core/import/made-rows';
import { spanOf } from '../../core/import/proposals';
import { everyRow, type RowSpan } from '../../core/import/row-span';
import { RowMaker } from '../../core/import/rows';
import { countOf } from '../../core/import/text-rows';
import { invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { worldAt } from '../../core/workspace';
import type { Table } from '../../core/table/model';
import { refusedSentence } from '../../core/wording/proposal-sentence';
import { localTime } from '../workspace/asking';
import { catalogueNow } from '../../data/catalogue';
import type { Tx } from '../../data/connect';
import { fieldIssue } from '../../data/field-issues';
import { loadRows, stampColumns, stampLoaded } from '../../data/runtime/imports/load-rows';
import {
  dropStage,
  mergeRows,
  stageRows,
  type Merging,
  type StagedRow,
} from '../../data/runtime/imports/merge-rows';
import { patience, withSources } from '../../data/runtime/links/open-source';
import { namesThere, noteNames, recordsThere, type Names, type Sheets } from './import-names';
import { keepPackage } from './keep-package';
import { finishTables, makeBareTables } from '../../data/runtime/tables/tables';
import {
  dropPieces,
  noteProgress,
  oneImportAtATime,
  readImport,
  updateImport,
  type ImportRow,
} from '../../data/system/imports';
import { asOwner, asOwnerCopying, type CopyInto } from '../../data/transaction';
import { reopened, type Reopen } from '../../files/again';
import { unpacked } from '../../files/package';
import { refusedRowsCsv } from '../../files/take-out';
import { current, every, unheard } from './read-import';
import { forgetFiles, withFiles } from './spooled-files';

/** The refusals that are kept to be shown, and the rows that are kept to be fixed. */
const [SHOWN, ROWS_KEPT] = [500, 20_000];

/**
 * Makes the tables of an accepted import and fills them, in one transaction: after a crash nothing of it is
 * there, and the job begins again. With refused rows nothing is kept, unless the owner said that the rest may
 * be.
 */
export async function keepImport(id: string): Promise<void> {
  await carryOut(id, 'keeping');
  await forgetFiles(id);
}

/** Does all that keeping does and undoes it, so that its owner knows beforehand what would come of it. */
export const tryImport = (id: string): Promise<void> => carryOut(id, 'trying');

async function carryOut(id: string, state: 'keeping' | 'trying'): Promise<void> {
  const row = await current(id);
  if (row?.state !== state || row.detection === null) return;
  const abort = new AbortController();
  const filling = new Filling(row, row.detection, abort);
  await withFiles(row, async (files, folder) => {
    const { packaged } = filling.detection;
    if (packaged !== undefined)
      return keepPackage(
        row,
        packaged,
        await unpacked(
          files,
          packaged.map(({ path }) => path),
          folder,
        ),
      );
    const reopen = await reopened(files, folder, abort.signal);
    const kept = await asOwnerCopying({ person: row.personId }, (tx, copy) =>
      filling.fill(tx, copy, reopen),
    ).catch((error: unknown) => filling.refusedByTable(error));
    if (
      abort.signal.aborted ||
      (!kept.ok && kept.error.kind === 'stale' && kept.error.why === 'import-moved')
    )
      return;
    // Whatever else is in the way may be gone at the next attempt; after the last the import says so.
    if (!kept.ok && kept.error.kind !== 'invalid')
      throw new Error(`the import was refused: ${kept.error.kind}`);
    await noteResult(row, filling.result(), await filling.refusedRows(reopen));
  });
}

/** What came of it, and the rows to mend. */
async function noteResult(
  row: ImportRow,
  result: ImportResult,
  refusedRows: Readonly<Record<string, string>>,
): Promise<void> {
  await asOwner({ person: row.personId }, async (tx) => {
    const now = await readImport(tx, row.id, true);
    const whole = { ...result, refusedSheets: Object.keys(refusedRows) };
    if (now?.state === 'trying')
      await updateImport(tx, row.id, {
        state: 'proposed',
        progress: null,
        result: null,
        trial: { result: whole },
        refusedRows,
      });
    else if (now?.state === 'keeping')
      await updateImport(tx, row.id, { state: 'refused', progress: null, result: whole, refusedRows });
    else if (now?.state === 'kept' && result.refused > 0)
      await updateImport(tx, row.id, { result: whole, refusedRows });
    if (now?.state === 'kept') await dropPieces(tx, row.id);
    return ok(null);
  });
}

/** One import on its way into its tables. */
class Filling {
  private readonly refusals: RefusedCell[] = [];
  private count = 0;
  /** By sheet and row: what is wrong with it. */
  private readonly wrong = new Map<string, Map<number, string[]>>();
  private readonly trying: boolean;
  private rows = 0;
  private made: ImportResult['tables'] = [];
  private plan: ImportPlan = { tables: [], named: [] };
  /** Of the workspace. */
  private zone = 'UTC';
  private tables: ReadonlyMap<string, Table> = new Map();
  private world = { today: '', now: '' };
  private readonly tell: (table: string) => void;

  constructor(
    private readonly row: ImportRow,
    readonly detection: Detection,
    private readonly abort: AbortController,
  ) {
    this.trying = row.state === 'trying';
    this.tell = every(500, (table) => void this.told(table).catch(unheard));
  }

  result(): ImportResult {
    const nothing = !this.trying && this.count > 0 && this.row.decisions.refusedRows === 'keep-nothing';
    return { tables: nothing ? [] : this.made, refused: this.count, refusals: this.refusals };
  }

  async fill(tx: Tx, copy: CopyInto, reopen: Reopen): Promise<Result<null, Refusal>> {
    await oneImportAtATime(tx, this.row.id);
    if ((await readImport(tx, this.row.id))?.state !== this.row.state) return fail(stale('import-moved'));
    const catalogue = await catalogueNow(tx);
    const there = catalogue.tables;
    this.zone = catalogue.workspace.zone;
    this.tables = there;
    this.world = worldAt(catalogue.workspace, localTime(catalogue.workspace, new Date()));
    this.plan = planImport(this.row.id, this.detection, this.row.decisions, [...there.values()]);
    const used = [
      ...this.plan.tables.filter(({ into }) => into !== null).map(({ table }) => table.id),
      ...namedTables(this.plan),
    ];
    const seen = new Set(tablesSeenWhole(catalogue, this.row.personId).map(({ id }) => id));
    if (used.some((table) => !seen.has(table))) return fail(notFound('table'));
    await this.load(tx, copy, { plan: this.plan, reopen, spanOf: (sheet) => this.spanOf(sheet) }, there);
    if (this.abort.signal.aborted) return fail(stale('import-moved'));
    if (this.count > 0 && this.row.decisions.refusedRows === 'keep-nothing') return fail(invalid());
    const keys = new Map(
      [...there.values(), ...this.plan.tables.map(({ table }) => table)].map(({ id, key }) => [id, key]),
    );
    const fresh = this.plan.tables.filter(({ into }) => into === null).map(({ table }) => table);
    await finishTables(tx, fresh, (id) => keys.get(id) ?? '');
    for (const table of fresh) await stampLoaded(tx, table, this.row.personId, true);
    // What was tried out is undone: a refusal is how a transaction is told so.
    if (this.trying) return fail(invalid());
    if ((await readImport(tx, this.row.id, true))?.state !== 'keeping') return fail(stale('import-moved'));
    await updateImport(tx, this.row.id, { state: 'kept', progress: null, result: this.result() });
    return ok(null);
  }

  /** What the tables themselves would not take, said at its column; anything else is a fault. */
  refusedByTable(error: unknown): Result<never, Refusal> {
    for (const { table, sheet } of this.plan.tables) {
      const issue = fieldIssue(error, table);
      if (issue === null) continue;
      this.refuse({
        sheet,
        row: 0,
        column: String(issue.facts['label'] ?? ''),
        text: '',
        code: issue.code === 'already-used' ? 'twice' : issue.code,
      });
      return fail(invalid(issue));
    }
    if (this.abort.signal.aborted) return fail(stale('import-moved'));
    throw error;
  }

  private async load(
    tx: Tx,
    copy: CopyInto,
    sheets: Sheets,
    there: ReadonlyMap<string, Table>,
  ): Promise<void> {
    const { tables, named } = this.plan;
    const records = await recordsThere(tx, sheets, there);
    const found: Names = new Map(
      tables.flatMap(({ columns }) =>
        columns.flatMap(({ finds }) =>
          finds === null
            ? []
            : [[finds.column, records.get(finds.column) ?? new Map<number, string>()] as const],
        ),
      ),
    );
    // Two sheets may come into one table, so what tells their rows' ids apart is the place in the plan.
    const ids = new Map([...tables, ...named].map((plan, i) => [plan, new RecordIds(this.row.id, i)]));
    const parentIdsOf = ({ table }: PlannedTable): RecordIds | null =>
      ids.get(tables.find((one) => one.into === null && one.table.id === table.parent) as PlannedTable) ??
      null;
    const refusedRows = new Map(tables.map(({ sheet }) => [sheet, new Set<number>()]));
    const makerOf = (plan: PlannedTable): RowMaker =>
      new RowMaker({
        plan,
        zone: this.zone,
        found,
        noted: found,
        ids: ids.get(plan) ?? new RecordIds(this.row.id, 0),
        parentIds: plan.into === null ? parentIdsOf(plan) : null,
        refusedRows: refusedRows.get(plan.sheet) ?? new Set(),
        refuse: (cell) => this.refuse(cell),
      });
    const fresh = new Map(tables.filter(({ into }) => into === null).map((plan) => [plan, makerOf(plan)]));
    for (const plan of named)
      if (plan.into !== null) await this.bringInto(tx, copy, sheets.reopen, plan, makerOf(plan), plan.into);
    await noteNames(sheets, fresh, found);
    await makeBareTables(
      tx,
      [...fresh.keys()].map(({ table }) => table),
      seeNewTables,
      'unstamped',
    );
    for (const plan of tables) {
      const maker = fresh.get(plan);
      if (maker === undefined) {
        await namesThere(tx, sheets, plan, there, found);
        if (plan.into !== null) await this.bringInto(tx, copy, sheets.reopen, plan, makerOf(plan), plan.into);
        continue;
      }
      const loaded = await loadRows(
        tx,
        copy,
        plan.table,
        Number(localTime({ zone: this.zone }, new Date()).slice(0, 4)),
        this.madeRows(plan, maker, sheets.reopen),
      );
      await stampColumns(tx, plan.table, this.row.personId);
      this.made = withMade(this.made, { key: plan.table.key, label: plan.table.label, records: loaded });
    }
  }

  private async bringInto(
    tx: Tx,
    copy: CopyInto,
    reopen: Reopen,
    plan: PlannedTable,
    maker: RowMaker,
    into: Into,
  ): Promise<void> {
    const merging: Merging = {
      table: plan.table,
      into,
      columns: plan.columns.map(({ column }) => column),
      trying: this.trying,
      checks: { tables: this.tables, world: this.world },
    };
    await stageRows(tx, copy, merging, rowByRow(this.madeRows(plan, maker, reopen)));
    const { merged, refused } = await withSources(tx, [plan.table.id], patience.job, () =>
      mergeRows(tx, merging),
    );
    await dropStage(tx);
    for (const one of refused) this.refuse({ ...one, sheet: plan.sheet });
    this.made = withMade(this.made, {
      key: plan.table.key,
      label: plan.table.label,
      records: merged.added + merged.changed,
      merged,
    });
  }

  /** The rows that were refused, by sheet, with what is wrong with each: a file to mend and bring again. */
  async refusedRows(reopen: Reopen): Promise<Record<string, string>> {
    const files: Record<string, string> = {};
    for (const [sheet, rows] of this.wrong) {
      const headings = this.detection.sheets.find(({ name }) => name === sheet)?.columns ?? [];
      const lines: string[][] = [];
      for await (const { numbers, rows: cells } of reopen(sheet)) {
        numbers.forEach((number, i) => {
          const reasons = rows.get(number);
          if (reasons !== undefined)
            lines.push([reasons.join('; '), ...headings.map(({ at }) => textOf(cells[i]?.[at]))]);
        });
      }
      files[sheet] = refusedRowsCsv(
        headings.map(({ name }) => name),
        lines,
      );
    }
    return files;
  }

  private async *madeRows(
    { table, sheet }: PlannedTable,
    maker: RowMaker,
    reopen: Reopen,
  ): AsyncGenerator<MadeRows> {
    for await (const some of reopen(sheet, this.abort.signal)) {
      this.rows += countOf(some);
      this.tell(table.label);
      yield maker.rows(some, this.spanOf(sheet));
    }
    yield maker.rest();
  }

  private spanOf(name: string): RowSpan {
    const sheet = this.detection.sheets.find((one) => one.name === name);
    return sheet === undefined ? everyRow : spanOf(sheet, this.row.decisions);
  }

  private refuse(cell: RefusedCell): void {
    if (++this.count <= SHOWN) this.refusals.push(cell);
    if (cell.row === 0 || this.count > ROWS_KEPT) return;
    const rows = this.wrong.get(cell.sheet) ?? new Map<number, string[]>();
    this.wrong.set(cell.sheet, rows);
    rows.set(cell.row, [
      ...(rows.get(cell.row) ?? []),
      refusedSentence({ ...cell, sheet: '' }).replace(/^, row \d+: /, ''),
    ]);
  }

  /** How far it has come goes by another connection, for this transaction is not seen until its end. */
  private async told(table: string): Promise<void> {
    await asOwner({ person: this.row.personId }, async (tx) =>
      ok(await noteProgress(tx, this.row.id, { rows: this.rows, table })),
    );
    if ((await current(this.row.id))?.state === 'cancelled') this.abort.abort();
  }
}

async function* rowByRow(rows: AsyncIterable<MadeRows>): AsyncGenerator<StagedRow[]> {
  for await (const some of rows) yield eachMade(some);
}

/** The job has failed for good: the import says so instead of waiting for ever. */
export async function giveUpImport(id: string): Promise<void> {
  const row = await current(id);
  if (row === null) return;
  await asOwner({ person: row.personId }, async (tx) => {
    const now = await readImport(tx, id, true);
    if (now === null || !working.has(now.state)) return ok(null);
    await updateImport(tx, id, { state: 'failed', fault: { code: 'fault', facts: {} }, progress: null });
    await dropPieces(tx, id);
    return ok(null);
  });
}
