import type { AnswerRow, Raw } from './answers';
import { asAnswerRow, isBlankState, questionAt, type Place, type RowState } from './cells';
import type { CompiledForm } from './compile-form';
import type { RowDefaults } from './defaults';
import type { ReadBlock } from './read-block';
import type { SheetCells } from './sheet-cells';
import type { SheetEdit } from './sheet-edit';

/** What is done to a sheet, as edits of what stands in its cells now; nothing is done yet. */
export class RowEdits {
  constructor(
    private readonly form: CompiledForm,
    private readonly cells: SheetCells,
    private readonly rowDefaults: RowDefaults,
  ) {}

  answer(place: Place, after: Raw): SheetEdit {
    return { t: 'answer', place, before: this.cells.raw(place), after };
  }

  /** The defaults of a row that is begun now, in the cells that are not written anyway. */
  begin(written: readonly Place[]): SheetEdit[] {
    const [place] = written;
    if (place?.length !== 3) return [];
    const [group, id] = place;
    const row = this.cells.row(group, id);
    if (row === null || !isBlankState(row)) return [];
    const taken = new Set(written.map(questionAt));
    return Object.entries(this.rowDefaults[group] ?? {}).flatMap(([question, raw]) =>
      taken.has(question) ? [] : [this.answer([group, id, question], raw)],
    );
  }

  /** A row with those that stand in it, which go first, so that they come back after it. */
  remove(row: RowState): SheetEdit[] {
    return [...this.cells.rowsIn(row).reverse(), row].map((one) => ({
      t: 'remove',
      group: one.group,
      at: this.rows(one.group).indexOf(one),
      row: asAnswerRow(one),
    }));
  }

  /** `to` counts the rows it stands among. */
  move(row: RowState, to: number): SheetEdit[] {
    const rows = this.rows(row.group);
    const among = rows.filter(({ of }) => of === row.of);
    const there = among[Math.min(Math.max(to, 0), among.length - 1)];
    return there === undefined || there === row
      ? []
      : [{ t: 'move', group: row.group, row: row.id, from: rows.indexOf(row), to: rows.indexOf(there) }];
  }

  /** Another row under this id, with the same typed in it and in the rows that stand in it, right behind. */
  duplicate(row: RowState, id: string, newId: () => string): SheetEdit[] {
    const { group, of } = row;
    const behind =
      this.rows(group)
        .filter((one) => one.of === of)
        .indexOf(row) + 1;
    return [
      { t: 'insert', group, at: this.cells.among(group, of, behind), row: { ...this.copied(row), id } },
      ...this.cells.rowsIn(row).map((inner, i): SheetEdit => ({
        t: 'insert',
        group: inner.group,
        at: this.rows(inner.group).length + i,
        row: { ...this.copied(inner), id: newId(), of: id },
      })),
    ];
  }

  /** What a block became: cells of rows that are there, and new ones behind them. */
  paste(group: string, of: string | undefined, rows: ReadBlock['rows']): SheetEdit[] {
    let at = this.cells.among(group, of);
    return rows.flatMap(({ id, isNew, cells }): SheetEdit[] => {
      if (isNew) {
        const all = { ...this.rowDefaults[group], ...cells };
        return [{ t: 'insert', group, at: at++, row: { id, ...(of !== undefined && { of }), cells: all } }];
      }
      const places = Object.keys(cells).map((question): Place => [group, id, question]);
      return [
        ...places.map((one) => this.answer(one, cells[questionAt(one)] ?? null)),
        ...this.begin(places),
      ];
    });
  }

  private rows(group: string): readonly RowState[] {
    return this.cells.groups.get(group) ?? [];
  }

  /** Files stay with the row they were brought to. */
  private copied(row: RowState): AnswerRow {
    const { cells, ...rest } = asAnswerRow(row);
    const isFile = (id: string): boolean => this.form.fields.get(id)?.question.kind === 'files';
    return { ...rest, cells: Object.fromEntries(Object.entries(cells).filter(([id]) => !isFile(id))) };
  }
}
