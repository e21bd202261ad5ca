import type { AnswerRow, Answers, Raw } from './answers';
import { emptyCells, readInto, type Cells, type Place, type Records, type RowState } from './cells';
import type { CompiledForm } from './compile-form';

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
    for (const group of form.groups.keys())
      this.groups.set(
        group,
        (answers.rows[group] ?? []).map((row) => this.rowOf(group, row)),
      );
  }

  at(place: Place): Cells | null {
    return place.length === 1 ? this.top : this.row(place[0], place[1]);
  }

  row(group: string, id: string): RowState | null {
    let known = this.known.get(group);
    if (known === undefined) {
      known = new Map((this.groups.get(group) ?? []).map((row) => [row.id, row]));
      this.known.set(group, known);
    }
    return known.get(id) ?? null;
  }

  /** A row as it was answered, which stands nowhere yet. */
  rowOf(group: string, row: AnswerRow): RowState {
    const state: RowState = { id: row.id, ...emptyCells() };
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
