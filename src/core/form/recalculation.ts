import type { Source } from '../expression/compile';
import type { Calendar, World } from '../expression/functions/builtin';
import { SENDER } from '../expression/person';
import { Budget, MOST_STEPS } from '../expression/step';
import { same, type ContextValue, type RecordValue, type Value } from '../expression/value';
import { grouped } from '../kernel/grouped';
import { issue, type Issue } from '../kernel/issue';
import { isBlankState, type Cells, type RowState } from './cells';
import type { SheetCells } from './sheet-cells';
import type { CompiledForm } from './compile-form';
import { groupsIn } from './design';
import type { Formula } from './formula';

/** What one formula gave, for the sheet (`row` null) or for a row. */
export interface WorkedCell {
  readonly group: string | null;
  readonly row: string | null;
  readonly id: string;
  readonly value: Value;
  readonly fault: Issue | null;
}

type Dirty = Map<number, 'all' | Set<RowState>>;

/**
 * Works a sheet out: after a change only the formulas that read what changed run again, each row of a formula by itself where it can,
 * in the order in which each comes after all it reads. Says which cells came out differently.
 */
export class Recalculation implements Source {
  readonly today: string;
  readonly now: string;
  readonly calendar: Calendar;
  readonly sender: RecordValue | null;
  private readonly form: CompiledForm;
  private readonly cells: SheetCells;
  private readonly top: Cells;
  private readonly groups: ReadonlyMap<string, readonly RowState[]>;
  private readonly changed: (row: RowState | null, id: string) => void;
  /** By group and by the row they stand in, which is none for all of a group. */
  private readonly filled = new Map<string, ReadonlyMap<string | undefined, readonly RowState[]>>();
  /** By column, and by the same. */
  private readonly columns = new Map<string, Map<string | undefined, readonly Value[]>>();
  /** The row the formula that runs now stands in. */
  private row: RowState | null = null;
  private tooLong = false;
  /** Whether any formula took more than there was to spend. */
  wasGivenUp = false;
  /** Of everything that is calculated between two key presses. */
  budget = new Budget();

  constructor(
    form: CompiledForm,
    world: World,
    cells: SheetCells,
    changed: (row: RowState | null, id: string) => void,
    private readonly steps = MOST_STEPS,
  ) {
    [this.today, this.now, this.calendar, this.sender] = [
      world.today,
      world.now,
      world.calendar,
      world.sender,
    ];
    [this.form, this.cells, this.top, this.groups] = [form, cells, cells.top, cells.groups];
    this.changed = changed;
  }

  everything(): void {
    this.forget();
    this.settle(new Map(this.form.formulas.map((_, i) => [i, 'all'])));
  }

  /** An answer changed; with `counts`, the row it stands in began or ceased to count as one. */
  answer(id: string, row: RowState | null, counts: string | null): void {
    const dirty: Dirty = new Map();
    if (counts !== null) this.markGroup(counts, dirty);
    this.mark(id, row, dirty);
    this.settle(dirty);
  }

  /** Rows came, went or moved: whatever reads the group or any column of it is recalculated. */
  rows(group: string): void {
    const dirty: Dirty = new Map();
    this.markGroup(group, dirty);
    this.settle(dirty);
  }

  /** The rows that count: those with anything typed in them, or in a row that stands in them. With `of`, those in that row. */
  filledRows(group: string, of?: string): readonly RowState[] {
    let known = this.filled.get(group);
    if (known === undefined) {
      const own = this.form.groups.get(group);
      const inner = own === undefined ? [] : groupsIn(this.form.design, own);
      const holding = new Set(inner.flatMap(({ id }) => this.filledRows(id).map((row) => row.of)));
      const found = (this.groups.get(group) ?? []).filter((row) => holding.has(row.id) || !isBlankState(row));
      known = new Map<string | undefined, readonly RowState[]>([
        ...grouped(found, (row) => row.of),
        [undefined, found],
      ]);
      this.filled.set(group, known);
    }
    return known.get(of) ?? [];
  }

  /** Whether a question is asked, for the form or in a row: all it depends on is true. */
  isAsked(id: string, row: RowState | null): boolean {
    const conditions = this.form.conditions.get(id);
    return conditions === undefined || conditions.every((one) => this.known(one, row) === true);
  }

  /** Whether the rows of a group are asked: with `of`, those in that row, and without, those of the form. */
  areAsked(group: string, of: RowState | null): boolean {
    return this.isAsked(group, of) && (of === null || this.isAsked(of.group, null));
  }

  /** Whether the group of a row is asked where it stands. */
  isRowAsked(row: RowState): boolean {
    return this.areAsked(row.group, this.cells.outer(row));
  }

  /** What stands in a row, in the row that one stands in, or in the form. */
  private known(id: string, row: RowState | null): Value | undefined {
    if (row === null) return this.top.values.get(id);
    return (
      row.values.get(id) ??
      (row.of === undefined ? undefined : this.cells.outer(row)?.values.get(id)) ??
      this.top.values.get(id)
    );
  }

  read(id: string): Value {
    return this.readIn(id, this.row);
  }

  /** What any expression reads that stands in this row, or in none; it is worked out for itself, and nothing of it is kept. */
  sourceIn(row: RowState | null): Source {
    const { today, now, calendar, sender } = this;
    return {
      today,
      now,
      calendar,
      sender,
      read: (id) => this.readIn(id, row),
      column: (group, id) => this.columnIn(group, id, row),
      budget: new Budget(this.steps),
      gaveUp: () => undefined,
    };
  }

  private readIn(id: string, row: RowState | null): Value {
    if (id === SENDER) return this.sender;
    if (this.groups.has(id)) return this.rowValues(id, row);
    if (!this.isAsked(id, row)) return null;
    return this.known(id, row) ?? null;
  }

  column(group: string, id: string): readonly Value[] {
    return this.columnIn(group, id, this.row);
  }

  private columnIn(group: string, id: string, from: RowState | null): readonly Value[] {
    const of = this.placeSeen(group, from);
    const byPlace = this.columns.get(id) ?? new Map<string | undefined, readonly Value[]>();
    const known = byPlace.get(of);
    if (known !== undefined) return known;
    const asked = this.form.conditions.has(id) ? (row: RowState) => this.isAsked(id, row) : () => true;
    const list = this.seenRows(group, of).map((row) => (asked(row) ? (row.values.get(id) ?? null) : null));
    this.columns.set(id, byPlace.set(of, list));
    return list;
  }

  /** The row whose rows are meant where a group is read: of rows within rows its own, wherever it is read in one. */
  private placeSeen(group: string, from: RowState | null): string | undefined {
    const within = this.form.groups.get(group)?.within;
    if (within === undefined || from === null) return undefined;
    return from.group === within ? from.id : from.group === group ? from.of : undefined;
  }

  /** The rows that count and are asked. */
  seenRows(group: string, of: string | undefined): readonly RowState[] {
    const rows = this.filledRows(group, of);
    const within = this.form.groups.get(group)?.within;
    if (within === undefined) return this.areAsked(group, null) ? rows : [];
    if (of === undefined && !this.form.conditions.has(group) && this.areAsked(within, null)) return rows;
    return rows.filter((row) => this.isRowAsked(row));
  }

  gaveUp(): void {
    this.tooLong = true;
    this.wasGivenUp = true;
  }

  /** Takes what was calculated elsewhere for the same answers. */
  takeOver(worked: readonly WorkedCell[]): void {
    this.forget();
    for (const { group, row, id, value, fault } of worked) {
      const cells = row === null ? this.top : this.groups.get(group ?? '')?.find((one) => one.id === row);
      if (cells === undefined) continue;
      cells.values.set(id, value);
      if (fault !== null) cells.faults.set(id, fault);
      this.changed(row === null ? null : (cells as RowState), id);
    }
  }

  /** All that formulas gave, cell by cell. */
  worked(): WorkedCell[] {
    return this.form.formulas.flatMap(({ id, group }): WorkedCell[] => {
      const cellOf = (cells: Cells, row: string | null): WorkedCell => ({
        group,
        row,
        id,
        value: cells.values.get(id) ?? null,
        fault: cells.faults.get(id) ?? null,
      });
      if (group === null) return [cellOf(this.top, null)];
      return (this.groups.get(group) ?? []).map((row) => cellOf(row, row.id));
    });
  }

  /** The rows as values; answers that are not asked for are left out of them. */
  private rowValues(group: string, from: RowState | null): readonly ContextValue[] {
    const hidden = [...this.form.conditions.keys()].filter((id) => this.form.fields.get(id)?.group === group);
    const rows = this.seenRows(group, this.placeSeen(group, from));
    if (hidden.length === 0) return rows.map((row) => row.values);
    return rows.map(
      (row) =>
        new Map(
          [...row.values].map(([id, value]) => [
            id,
            hidden.includes(id) && !this.isAsked(id, row) ? null : value,
          ]),
        ),
    );
  }

  private forget(): void {
    this.filled.clear();
    this.columns.clear();
  }

  private markGroup(group: string, dirty: Dirty): void {
    this.forget();
    const within = this.form.groups.get(group)?.within;
    for (const one of within === undefined ? [group] : [group, within])
      for (const i of this.form.groupReaders.get(one) ?? []) dirty.set(i, 'all');
  }

  private mark(id: string, row: RowState | null, dirty: Dirty): void {
    // Whether something is asked decides what its readers see, and whether a group is asked, all of its columns.
    if (row !== null) this.columns.delete(id);
    if (this.form.isCondition.has(id)) this.columns.clear();
    for (const i of this.form.readers.get(id) ?? []) {
      const formula = this.form.formulas[i];
      if (formula === undefined) continue;
      const met = row === null ? null : this.metBy(formula, row);
      const known = met === null ? 'all' : (dirty.get(i) ?? new Set());
      if (met !== null && known !== 'all') for (const one of met) known.add(one);
      dirty.set(i, known);
    }
  }

  /** The rows in which a formula may give something else after a change in a row; null for wherever it stands. */
  private metBy({ group, wide }: Formula, row: RowState): readonly RowState[] | null {
    if (group === null) return null;
    // What is read in a row of the rows within it is of its own.
    const outer = this.cells.outer(row);
    if (outer !== null && group === outer.group) return [outer];
    if (wide) return null;
    if (group === row.group) return [row];
    return this.form.groups.get(group)?.within === row.group
      ? (this.groups.get(group) ?? []).filter(({ of }) => of === row.id)
      : null;
  }

  /** Formulas only read earlier ones, so one pass upwards settles everything. */
  private settle(dirty: Dirty): void {
    const { formulas } = this.form;
    this.budget = new Budget(this.steps);
    for (let i = dirty.size === 0 ? formulas.length : Math.min(...dirty.keys()); i < formulas.length; i++) {
      const where = dirty.get(i);
      const formula = formulas[i];
      if (where === undefined || formula === undefined) continue;
      if (formula.group === null) this.workOut(formula, this.top, null, dirty);
      else
        for (const row of where === 'all' ? (this.groups.get(formula.group) ?? []) : where)
          this.workOut(formula, row, row, dirty);
    }
  }

  private workOut(formula: Formula, cells: Cells, row: RowState | null, dirty: Dirty): void {
    [this.row, this.tooLong] = [row, false];
    const value = formula.run(this);
    if (this.tooLong) cells.faults.set(formula.id, issue('too-many-steps', []));
    else if (cells.faults.size > 0) cells.faults.delete(formula.id);
    const before = cells.values.get(formula.id);
    if (before !== undefined && same(before, value)) return;
    cells.values.set(formula.id, value);
    this.changed(row, formula.id);
    this.mark(formula.id, row, dirty);
  }
}
