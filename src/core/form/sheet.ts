import type { Source } from '../expression/compile';
import type { World } from '../expression/functions/builtin';
import { isRecord, type RecordValue, type Value } from '../expression/value';
import type { Issue } from '../kernel/issue';
import type { AnswerRow, Answers, Raw } from './answers';
import { copiesOf } from './carry';
import { CellWatchers } from './cell-watchers';
import {
  asAnswerRow,
  isBlankState,
  questionAt,
  recordKey,
  type Place,
  type Records,
  type RowState,
} from './cells';
import type { CompiledForm } from './compile-form';
import type { RowDefaults } from './defaults';
import { misfitPlaces } from './misfits';
import { readBlock, type Block } from './read-block';
import { Recalculation, type WorkedCell } from './recalculation';
import { RowEdits } from './row-edits';
import { requireId } from './sheet-ids';
import { SheetCells } from './sheet-cells';
import { inverse, sheetHistory, type SheetEdit } from './sheet-edit';

export interface SheetOptions {
  /** Columns that are read and not told, as `table column`: messages leave out what stands in them. */
  readonly untold?: ReadonlySet<string>;
  /** What may be spent at once to work its formulas out. */
  readonly steps?: number;
  /** What they gave elsewhere. */
  readonly worked?: readonly WorkedCell[];
  /** What a row begins with once anything is typed in it. */
  readonly rowDefaults?: RowDefaults;
}

/**
 * One form being filled: the same engine in the browser and, when it is sent, on the server.
 * A change works out only what depends on it, and tells those who watch the cells that came out differently.
 * It is long because it is the one door to a sheet: what reads, works out, edits and watches stands behind it, in files of its own.
 */
export class Sheet {
  readonly form: CompiledForm;
  readonly untold: ReadonlySet<string>;
  private readonly records: Map<string, RecordValue>;
  private readonly cells: SheetCells;
  private readonly reasons: Map<string, string>;
  private readonly edits: RowEdits;
  private readonly engine: Recalculation;
  private readonly history = sheetHistory();
  private readonly watchers = new CellWatchers();
  private readonly dropped: Place[] = [];
  private count = 0;

  constructor(
    form: CompiledForm,
    answers: Answers,
    records: Records,
    world: World,
    { steps, worked, rowDefaults = {}, untold = NOTHING }: SheetOptions = {},
  ) {
    this.form = form;
    this.untold = untold;
    this.records = new Map(records);
    this.reasons = new Map(Object.entries(answers.reasons));
    this.cells = new SheetCells(form, answers, this.records);
    this.edits = new RowEdits(form, this.cells, rowDefaults);
    this.engine = new Recalculation(form, world, this.cells, (row, id) => this.watchers.note(row, id), steps);
    if (worked === undefined) this.engine.everything();
    else this.engine.takeOver(worked);
  }

  /** Whether something took more steps than there were, so that its value is empty and not to be relied on. */
  get wasGivenUp(): boolean {
    return this.engine.wasGivenUp;
  }

  /** All that the formulas gave. */
  worked(): readonly WorkedCell[] {
    return this.engine.worked();
  }

  /** What an expression of a row, or of none, reads here. */
  source(row: RowState | null): Source {
    return this.engine.sourceIn(row);
  }

  /** Grows with every change; what is shown may be remembered until it does. */
  get version(): number {
    return this.count;
  }

  watch(told: () => void): () => void {
    return this.watchers.watch(told);
  }

  /** Told when the cell is typed in or comes out differently, or when it begins or ceases to be asked or to be required. */
  watchCell(place: Place, told: () => void): () => void {
    const id = questionAt(place);
    return this.watchers.watchCells(
      [
        cellKey(place),
        ...[...(this.form.conditions.get(id) ?? []), requireId(id)].flatMap((one) =>
          place.length === 3 ? [one, `${place[1]}/${one}`] : [one],
        ),
      ],
      told,
    );
  }

  raw(place: Place): Raw {
    return this.cells.raw(place);
  }

  /** What an answer is worth: empty while it is not asked for. */
  value(place: Place): Value {
    return this.isAsked(place) ? (this.cells.at(place)?.values.get(questionAt(place)) ?? null) : null;
  }

  fault(place: Place): Issue | null {
    return this.cells.at(place)?.faults.get(questionAt(place)) ?? null;
  }

  isAsked(place: Place): boolean {
    if (place.length === 1) return this.engine.isAsked(place[0], null);
    const row = this.cells.row(place[0], place[1]);
    return row !== null && this.engine.isRowAsked(row) && this.engine.isAsked(place[2], row);
  }

  isRequired(place: Place): boolean {
    const id = questionAt(place);
    const question = this.form.fields.get(id)?.question ?? this.form.groups.get(id);
    if (question === undefined) return false;
    return (
      question.required ||
      (question.requireWhen !== undefined && this.cells.at(place)?.values.get(requireId(id)) === true)
    );
  }

  /** Every row, blank ones too, in order; with `of`, those in that row of another group. */
  rows(group: string, of?: string): readonly RowState[] {
    const rows = this.cells.groups.get(group) ?? [];
    return of === undefined ? rows : rows.filter((row) => row.of === of);
  }

  /** The rows that count: those with anything typed in them, of a group that is asked for. */
  filledRows(group: string, of?: string): readonly RowState[] {
    return this.engine.seenRows(group, of);
  }

  /** The row that a row stands in; null for one of a group of the form. */
  outer(row: RowState): RowState | null {
    return this.cells.outer(row);
  }

  /** Where an answer stands that is read from a row, or from the form. */
  placeFrom(id: string, row: readonly [group: string, row: string] | null): Place {
    return this.cells.placeFrom(id, row === null ? null : this.cells.row(...row));
  }

  reason(check: string): string {
    return this.reasons.get(check) ?? '';
  }

  record(table: string, id: string): RecordValue | null {
    return this.records.get(recordKey(table, id)) ?? null;
  }

  /** The records its lookups have picked, or could take back by undoing. */
  picked(): Records {
    return this.records;
  }

  set(place: Place, raw: Raw): void {
    this.do([this.edits.answer(place, raw), ...this.edits.begin([place])]);
  }

  /** A lookup's pick: the record becomes known before the answer names it, and brings along what is carried over from it. */
  pick(place: Place, table: string, record: RecordValue | null): void {
    const before = this.record(table, String(this.raw(place) ?? ''));
    if (record !== null) this.records.set(recordKey(table, record.id), record);
    const copies = copiesOf(this.form, place, record, before, (at) => this.raw(at));
    this.do([
      this.edits.answer(place, record?.id ?? null),
      ...copies.map(([at, raw]) => this.edits.answer(at, raw)),
      ...this.edits.begin([place, ...copies.map(([at]) => at)]),
    ]);
  }

  setReason(check: string, reason: string): void {
    this.do([{ t: 'reason', check, before: this.reason(check), after: reason }]);
  }

  /** `at` counts the rows it stands among. */
  insertRow(group: string, row: AnswerRow, at?: number): void {
    this.do([{ t: 'insert', group, at: this.cells.among(group, row.of, at), row }]);
  }

  /** Another row with the same typed in it and in the rows that stand in it, right behind; gives its id. */
  duplicateRow(group: string, rowId: string, newId: () => string): string | null {
    const row = this.cells.row(group, rowId);
    if (row === null) return null;
    const id = newId();
    this.do(this.edits.duplicate(row, id, newId));
    return id;
  }

  /** Other rows in the place of all there are, with the records they pick, as one step. */
  replaceRows(
    group: string,
    rows: readonly AnswerRow[],
    records: Iterable<readonly [table: string, record: RecordValue]>,
  ): void {
    for (const [table, record] of records) this.records.set(recordKey(table, record.id), record);
    this.do([
      ...[...this.rows(group)].reverse().flatMap((row) => this.edits.remove(row)),
      ...rows.map((row, at): SheetEdit => ({ t: 'insert', group, at, row })),
    ]);
  }

  /** A blank row to type in, which is no change of the sheet. */
  offerRow(group: string, id: string, of?: string): void {
    const row = { id, ...(of !== undefined && { of }), cells: {} };
    this.apply({ t: 'insert', group, at: this.rows(group).length, row });
    this.tell();
  }

  /** Takes a row away, with those that stand in it; gives the way to put them back where they stood. */
  removeRow(group: string, rowId: string): (() => void) | null {
    const row = this.cells.row(group, rowId);
    if (row === null) return null;
    const edits = this.edits.remove(row);
    this.do(edits);
    return () => this.takeBack(edits);
  }

  /** `to` counts the rows it stands among. */
  moveRow(group: string, rowId: string, to: number): void {
    const row = this.cells.row(group, rowId);
    if (row !== null) this.do(this.edits.move(row, to));
  }

  /**
   * Writes a block of texts over the rows from a place on, as `readBlock` says; gives how many of them fell
   * beside the last column, and the way to take it back.
   */
  paste(
    place: readonly [group: string, row: string, question: string],
    block: Block,
    newId: () => string,
    found?: (question: string, text: string) => RecordValue | null,
  ): { left: number; takeBack: () => void } {
    const [group, first] = place;
    const of = this.cells.row(group, first)?.of;
    const read = readBlock(this.form, this.rows(group, of), place, block, { newId, ...(found && { found }) });
    for (const [table, record] of read.records) this.records.set(recordKey(table, record.id), record);
    const edits = this.edits.paste(group, of, read.rows);
    this.do(edits);
    return { left: read.left, takeBack: () => this.takeBack(edits) };
  }

  /** Takes back what was done some time ago, as a step of its own. What was done to the same place since stays. */
  private takeBack(edits: readonly SheetEdit[]): void {
    const asLeft = edits.filter((edit) => this.isAsLeft(edit));
    this.do(asLeft.reverse().map(inverse));
  }

  private isAsLeft(edit: SheetEdit): boolean {
    switch (edit.t) {
      case 'answer':
        return this.raw(edit.place) === edit.after;
      case 'reason':
        return this.reason(edit.check) === edit.after;
      case 'insert':
        return this.cells.row(edit.group, edit.row.id) !== null;
      case 'remove':
        return this.cells.row(edit.group, edit.row.id) === null;
      case 'move':
        return this.cells.row(edit.group, edit.row) !== null;
    }
  }

  get canUndo(): boolean {
    return this.history.canUndo;
  }

  get canRedo(): boolean {
    return this.history.canRedo;
  }

  undo(): void {
    this.applyAll(this.history.undo());
  }

  redo(): void {
    this.applyAll(this.history.redo());
  }

  /** The person has left the place they typed in: what they answered there is meant, and picks that fit it no more may go. */
  pause(): void {
    this.clearMisfits();
    this.history.pause();
  }

  /** What would be kept as the draft. Blank rows are left out; answers not asked for now are kept, in case they are again. */
  answers(): Answers {
    const rows = [...this.cells.groups.keys()].map(
      (group) => [group, this.engine.filledRows(group).map(asAnswerRow)] as const,
    );
    return {
      values: Object.fromEntries(this.cells.top.raw),
      rows: Object.fromEntries(rows),
      reasons: Object.fromEntries(this.reasons),
    };
  }

  /** Works everything out anew: something it depends on beside the answers has come, as the engine for patterns may. */
  refresh(): void {
    this.engine.everything();
    this.tell();
  }

  private do(edits: readonly SheetEdit[]): void {
    const real = edits.filter(
      (edit) => (edit.t !== 'answer' && edit.t !== 'reason') || edit.before !== edit.after,
    );
    if (real.length === 0) return;
    this.history.did(real);
    this.applyAll(real);
  }

  /** Picks that fit their filter no more and are not to stay, with what they brought along. */
  private clearMisfits(): void {
    for (let misfits = this.misfits(); misfits.length > 0; misfits = this.misfits()) {
      this.dropped.push(...misfits);
      const edits = misfits.flatMap((place) => this.unpicked(place));
      this.history.also(edits);
      this.applyAll(edits);
    }
  }

  private misfits(): Place[] {
    return misfitPlaces({
      form: this.form,
      rows: (group) => this.rows(group),
      placeFrom: (id, place) => this.placeFrom(id, place.length === 1 ? null : [place[0], place[1]]),
      value: (place) => this.value(place),
      worked: (place, formula) => this.cells.at(place)?.values.get(formula) ?? null,
    });
  }

  private unpicked(place: Place): SheetEdit[] {
    const value = this.value(place);
    const copies = copiesOf(this.form, place, null, isRecord(value) ? value : null, (at) => this.raw(at));
    return [this.edits.answer(place, null), ...copies.map(([at, raw]) => this.edits.answer(at, raw))];
  }

  /** The picks that were taken away by themselves since it was last asked, by their places. */
  takeDropped(): readonly Place[] {
    return this.dropped.splice(0);
  }

  private applyAll(edits: readonly SheetEdit[]): void {
    for (const edit of edits) this.apply(edit);
    if (edits.length > 0) this.tell();
  }

  private apply(edit: SheetEdit): void {
    switch (edit.t) {
      case 'answer':
        return this.applyAnswer(edit.place, edit.after);
      case 'reason':
        return void this.reasons.set(edit.check, edit.after);
      case 'insert':
        return this.changeRows(edit.group, (rows) =>
          rows.splice(edit.at, 0, this.cells.rowOf(edit.group, edit.row)),
        );
      case 'remove':
        return this.changeRows(edit.group, (rows) => {
          const at = rows.findIndex(({ id }) => id === edit.row.id);
          if (at >= 0) rows.splice(at, 1);
        });
      case 'move':
        return this.changeRows(edit.group, (rows) => {
          const [row] = rows.splice(
            rows.findIndex(({ id }) => id === edit.row),
            1,
          );
          if (row !== undefined) rows.splice(edit.to, 0, row);
        });
    }
  }

  private applyAnswer(place: Place, raw: Raw): void {
    const cells = this.cells.at(place);
    if (cells === null) return;
    const row = place.length === 3 ? (cells as RowState) : null;
    const wasBlank = row !== null && isBlankState(row);
    this.cells.take(cells, questionAt(place), raw, place.length === 3 ? place[0] : null);
    this.watchers.note(row, questionAt(place));
    const counts = row !== null && place.length === 3 && wasBlank !== isBlankState(row) ? place[0] : null;
    this.engine.answer(questionAt(place), row, counts);
  }

  private changeRows(group: string, change: (rows: RowState[]) => unknown): void {
    if (this.cells.change(group, change)) this.engine.rows(group);
  }

  private tell(): void {
    this.count++;
    this.watchers.tell();
  }
}

const cellKey = (place: Place): string => (place.length === 1 ? place[0] : `${place[1]}/${place[2]}`);
const NOTHING: ReadonlySet<string> = new Set();
