import type { Source } from '../expression/compile';
import type { Calendar, World } from '../expression/functions/builtin';
import { SENDER } from '../expression/person';
import { Budget, MOST_STEPS } from '../expression/step';
import { same, type ContextValue, type RecordValue, type Value } from '../expression/value';
import { issue, type Issue } from '../kernel/issue';
import { isBlankState, type Cells, type RowState } from './cells';
import type { CompiledForm } from './compile-form';
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
  private readonly top: Cells;
  private readonly groups: ReadonlyMap<string, readonly RowState[]>;
  private readonly changed: (row: RowState | null, id: string) => void;
  private readonly filled = new Map<string, readonly RowState[]>();
  private readonly columns = new Map<string, readonly Value[]>();
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
    top: Cells,
    groups: ReadonlyMap<string, readonly RowState[]>,
    changed: (row: RowState | null, id: string) => void,
    private readonly steps = MOST_STEPS,
  ) {
    [this.today, this.now, this.calendar, this.sender] = [
      world.today,
      world.now,
      world.calendar,
      world.sender,
    ];
    [this.form, this.top, this.groups, this.changed] = [form, top, groups, changed];
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

  /** The rows that count: those with anything typed in them. */
  filledRows(group: string): readonly RowState[] {
    const known = this.filled.get(group);
    if (known !== undefined) return known;
    const found = (this.groups.get(group) ?? []).filter((row) => !isBlankState(row));
    this.filled.set(group, found);
    return found;
  }

  /** Whether a question is asked, for the form or in a row: all it depends on is true. */
  isAsked(id: string, row: RowState | null): boolean {
    const conditions = this.form.conditions.get(id);
    return (
      conditions === undefined ||
      conditions.every((one) => (row?.values.get(one) ?? this.top.values.get(one)) === true)
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
      column: (group, id) => this.column(group, id),
      budget: new Budget(this.steps),
      gaveUp: () => undefined,
    };
  }

  private readIn(id: string, row: RowState | null): Value {
    if (id === SENDER) return this.sender;
    if (this.groups.has(id)) return this.isAsked(id, null) ? this.rowValues(id) : [];
    if (!this.isAsked(id, row)) return null;
    return row?.values.get(id) ?? this.top.values.get(id) ?? null;
  }

  column(group: string, id: string): readonly Value[] {
    const known = this.columns.get(id);
    if (known !== undefined) return known;
    const asked = this.form.conditions.has(id) ? (row: RowState) => this.isAsked(id, row) : () => true;
    const list = this.isAsked(group, null)
      ? this.filledRows(group).map((row) => (asked(row) ? (row.values.get(id) ?? null) : null))
      : [];
    this.columns.set(id, list);
    return list;
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
  private rowValues(group: string): readonly ContextValue[] {
    const hidden = [...this.form.conditions.keys()].filter((id) => this.form.fields.get(id)?.group === group);
    const rows = this.filledRows(group);
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
    for (const i of this.form.groupReaders.get(group) ?? []) dirty.set(i, 'all');
  }

  private mark(id: string, row: RowState | null, dirty: Dirty): void {
    // Whether something is asked decides what its readers see, and whether a group is asked, all of its columns.
    if (row !== null) this.columns.delete(id);
    if (this.form.isCondition.has(id)) this.columns.clear();
    for (const i of this.form.readers.get(id) ?? []) {
      const formula = this.form.formulas[i];
      if (formula === undefined) continue;
      const known = dirty.get(i);
      if (row === null || formula.group === null || formula.wide) dirty.set(i, 'all');
      else if (known !== 'all') dirty.set(i, (known ?? new Set()).add(row));
    }
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
