import { rowPlaces, standsSomewhere, type AnswerRow, type Answers, type Raw } from './answers';
import {
  emptyCells,
  questionAt,
  readInto,
  type Cells,
  type Place,
  type Records,
  type RowState,
} from './cells';
import type { CompiledForm } from './compile-form';
import { groupsIn } from './design';

/** What stands in the cells of a sheet: outside rows, and in the rows of each group. Nothing is worked out here. */
export class SheetCells {
  readonly top = emptyCells();
  readonly groups = new Map<string, RowState[]>();
  private readonly form: CompiledForm;
  /** As the sheet that owns these cells comes to know them. */
  private readonly records: Records;
  /** The rows of a group by their ids, until rows come, go or move. */
  private readonly known = new Map<string, ReadonlyMap<string, RowState>>();

  constructor(form: CompiledForm, answers: Answers, records: Records) {
    this.form = form;
    this.records = records;
    for (const [id, raw] of Object.entries(answers.values)) this.take(this.top, id, raw, null);
    const places = rowPlaces(answers.rows);
    for (const [id, group] of form.groups)
      this.groups.set(
        id,
        (answers.rows[id] ?? [])
          .filter((row) => standsSomewhere(group, row, places))
          .map((row) => this.rowOf(id, row)),
      );
  }

  at(place: Place): Cells | null {
    return place.length === 1 ? this.top : this.row(place[0], place[1]);
  }

  raw(place: Place): Raw {
    return this.at(place)?.raw.get(questionAt(place)) ?? null;
  }

  row(group: string, id: string): RowState | null {
    let known = this.known.get(group);
    if (known === undefined) {
      known = new Map((this.groups.get(group) ?? []).map((row) => [row.id, row]));
      this.known.set(group, known);
    }
    return known.get(id) ?? null;
  }

  /** The row that a row stands in; null for one of a group of the form. */
  outer({ group, of }: RowState): RowState | null {
    const within = this.form.groups.get(group)?.within;
    return within === undefined || of === undefined ? null : this.row(within, of);
  }

  /** Where an answer stands that is read from a row: in that row, in the row that one stands in, or in the form. */
  placeFrom(id: string, row: RowState | null): Place {
    const home = this.form.homes.get(id);
    for (let at = row; at !== null; at = this.outer(at)) if (at.group === home) return [home, at.id, id];
    return [id];
  }

  /** The rows that stand in a row, group by group. */
  rowsIn({ group, id }: RowState): RowState[] {
    const own = this.form.groups.get(group);
    const inner = own === undefined ? [] : groupsIn(this.form.design, own);
    return inner.flatMap((one) => (this.groups.get(one.id) ?? []).filter(({ of }) => of === id));
  }

  /** Where a row goes among all of its group: `at` counts those in the same row, and is behind them if left out. */
  among(group: string, of: string | undefined, at = Infinity): number {
    const rows = this.groups.get(group) ?? [];
    const there = rows.filter((row) => row.of === of)[at];
    const last = rows.findLastIndex((row) => row.of === of);
    return there !== undefined ? rows.indexOf(there) : last < 0 ? rows.length : last + 1;
  }

  /** A row as it was answered, which stands nowhere yet. */
  rowOf(group: string, row: AnswerRow): RowState {
    const state: RowState = { id: row.id, group, of: row.of, ...emptyCells() };
    for (const [id, raw] of Object.entries(row.cells)) this.take(state, id, raw, group);
    return state;
  }

  /** Rows come, go or move. False where there is no such group. */
  change(group: string, change: (rows: RowState[]) => unknown): boolean {
    const rows = this.groups.get(group);
    if (rows === undefined) return false;
    change(rows);
    this.known.delete(group);
    return true;
  }

  /** Reads an answer into a cell; what has no place there is left out. */
  take(cells: Cells, id: string, raw: Raw, group: string | null): void {
    const field = this.form.fields.get(id);
    if (field !== undefined && field.group === group) readInto(cells, field.question, raw, this.records);
  }
}
