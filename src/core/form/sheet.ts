import type { Source } from '../expression/compile';
import { isRecord, same, type RecordValue, type Value } from '../expression/value';
import type { World } from '../expression/functions/builtin';
import type { Issue } from '../kernel/issue';
import { issue } from '../kernel/issue';
import { kinds } from '../table/kinds/list';
import { isBlank, type AnswerRow, type Answers, type Raw } from './answers';
import type { CompiledForm, Formula } from './compile-form';
import type { FieldQuestion } from './design';

/** One row while it is filled. `values` holds what was read and what was worked out, by question or check id. */
export interface RowState {
  readonly id: string;
  readonly raw: Map<string, Raw>;
  readonly values: Map<string, Value>;
  readonly faults: Map<string, Issue>;
}

/** The records that lookups have picked, by `table/record id`. */
export type Records = ReadonlyMap<string, RecordValue>;
export const recordKey = (table: string, id: string): string => `${table}/${id}`;

/** `[question]`, or `[group, row, question]`. */
export type Place = readonly [question: string] | readonly [group: string, row: string, question: string];

type Scope = Pick<RowState, 'raw' | 'values' | 'faults'>;
type Dirty = Map<number, 'all' | Set<RowState>>;

/**
 * One form being filled: the same engine in the browser and, when it is sent, on the server.
 * A change works out only what depends on it, in the order the compiled form gives, and tells those who watch.
 */
export class Sheet {
  readonly form: CompiledForm;
  private readonly world: World;
  private records: Map<string, RecordValue>;
  private readonly top: Scope = { raw: new Map(), values: new Map(), faults: new Map() };
  private readonly groups = new Map<string, RowState[]>();
  private readonly reasons: Map<string, string>;
  private readonly columnCache = new Map<string, Value[]>();
  private readonly watchers = new Set<() => void>();
  private count = 0;

  constructor(form: CompiledForm, answers: Answers, records: Records, world: World) {
    this.form = form;
    this.world = world;
    this.records = new Map(records);
    this.reasons = new Map(Object.entries(answers.reasons));
    for (const [id, raw] of Object.entries(answers.values)) this.readInto(this.top, id, raw);
    for (const group of form.groups.keys()) this.groups.set(group, (answers.rows[group] ?? []).map((row) => this.rowState(group, row)));
    this.settle(new Map(form.formulas.map((_, i) => [i, 'all'])));
  }

  /** Grows with every change; what is shown may be remembered until it does. */
  get version(): number {
    return this.count;
  }

  watch(told: () => void): () => void {
    this.watchers.add(told);
    return () => this.watchers.delete(told);
  }

  raw(place: Place): Raw {
    return this.scopeAt(place)?.raw.get(last(place)) ?? null;
  }

  value(place: Place): Value {
    return this.scopeAt(place)?.values.get(last(place)) ?? null;
  }

  fault(place: Place): Issue | null {
    return this.scopeAt(place)?.faults.get(last(place)) ?? null;
  }

  /** Every row, blank ones too, in order. */
  rows(group: string): readonly RowState[] {
    return this.groups.get(group) ?? [];
  }

  /** The rows that count: those with anything typed in them. */
  filledRows(group: string): readonly RowState[] {
    return this.rows(group).filter((row) => !isBlankState(row));
  }

  reason(check: string): string {
    return this.reasons.get(check) ?? '';
  }

  record(table: string, id: string): RecordValue | null {
    return this.records.get(recordKey(table, id)) ?? null;
  }

  set(place: Place, raw: Raw): void {
    const scope = this.scopeAt(place);
    if (scope === null || scope.raw.get(last(place)) === raw) return;
    const row = place.length === 3 ? (scope as RowState) : null;
    const wasBlank = row !== null && isBlankState(row);
    this.readInto(scope, last(place), raw);
    const dirty: Dirty = new Map();
    this.mark(last(place), row, dirty);
    if (row !== null && place.length === 3 && wasBlank !== isBlankState(row)) this.markGroup(place[0], dirty);
    this.settle(dirty);
    this.tell();
  }

  /** A lookup's pick: the record becomes known before the answer names it. */
  pick(place: Place, table: string, record: RecordValue | null): void {
    if (record !== null) this.records.set(recordKey(table, record.id), record);
    this.set(place, record?.id ?? null);
  }

  setReason(check: string, reason: string): void {
    this.reasons.set(check, reason);
    this.tell();
  }

  insertRow(group: string, row: AnswerRow, at = this.rows(group).length): void {
    this.groups.get(group)?.splice(at, 0, this.rowState(group, row));
    this.groupChanged(group);
  }

  /** Takes a row away; gives it back with its place, so that it can be put back. */
  removeRow(group: string, rowId: string): { row: AnswerRow; at: number } | null {
    const rows = this.groups.get(group) ?? [];
    const at = rows.findIndex((row) => row.id === rowId);
    const [removed] = at < 0 ? [] : rows.splice(at, 1);
    if (removed === undefined) return null;
    this.groupChanged(group);
    return { row: asAnswerRow(removed), at };
  }

  /** What would be kept as the draft. Blank rows are left out. */
  answers(): Answers {
    const rows = [...this.groups].map(([group]) => [group, this.filledRows(group).map(asAnswerRow)] as const);
    return { values: Object.fromEntries(this.top.raw), rows: Object.fromEntries(rows), reasons: Object.fromEntries(this.reasons) };
  }

  private scopeAt(place: Place): Scope | null {
    if (place.length === 1) return this.top;
    return this.rows(place[0]).find((row) => row.id === place[1]) ?? null;
  }

  private rowState(group: string, row: AnswerRow): RowState {
    const state: RowState = { id: row.id, raw: new Map(), values: new Map(), faults: new Map() };
    for (const [id, raw] of Object.entries(row.cells)) if (this.form.fields.get(id)?.group === group) this.readInto(state, id, raw);
    return state;
  }

  private readInto(scope: Scope, id: string, raw: Raw): void {
    const field = this.form.fields.get(id);
    if (field === undefined || field.question.kind === 'calculated') return;
    scope.raw.set(id, raw);
    scope.faults.delete(id);
    scope.values.set(id, null);
    if (isBlank(raw)) return;
    const read = this.readAnswer(field.question, raw);
    if ('code' in read) scope.faults.set(id, read);
    else scope.values.set(id, read.value);
  }

  private readAnswer(question: Exclude<FieldQuestion, { kind: 'calculated' }>, raw: Raw): Issue | { value: Value } {
    if (question.kind === 'lookup') {
      const record = typeof raw === 'string' ? this.record(question.table, raw) : null;
      return record === null ? issue('record-gone', []) : { value: record };
    }
    const read = kinds[question.kind].read(raw, question);
    return read.ok ? read : read.error;
  }

  private groupChanged(group: string): void {
    const dirty: Dirty = new Map();
    this.markGroup(group, dirty);
    this.settle(dirty);
    this.tell();
  }

  /** A row came, went, or began to count: whatever reads the group or any column of it is worked out anew. */
  private markGroup(group: string, dirty: Dirty): void {
    this.columnCache.clear();
    for (const i of this.form.readers.get(group) ?? []) dirty.set(i, 'all');
    this.form.formulas.forEach((formula, i) => {
      if (formula.group === group || (formula.wide && readsGroup(formula, group, this.form))) dirty.set(i, 'all');
    });
  }

  private mark(id: string, row: RowState | null, dirty: Dirty): void {
    if (row !== null) this.columnCache.delete(id);
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
    for (let i = dirty.size === 0 ? this.form.formulas.length : Math.min(...dirty.keys()); i < this.form.formulas.length; i++) {
      const where = dirty.get(i);
      const formula = this.form.formulas[i];
      if (where === undefined || formula === undefined) continue;
      if (formula.group === null) this.workOut(formula, this.top, null, dirty);
      else for (const row of where === 'all' ? this.rows(formula.group) : where) this.workOut(formula, row, row, dirty);
    }
  }

  private workOut(formula: Formula, scope: Scope, row: RowState | null, dirty: Dirty): void {
    const value = formula.run(this.sourceFor(row));
    const before = scope.values.get(formula.id);
    if (before !== undefined && same(before, value)) return;
    scope.values.set(formula.id, value);
    this.mark(formula.id, row, dirty);
  }

  private sourceFor(row: RowState | null): Source {
    return {
      ...this.world,
      gaveUp: () => undefined,
      read: (id) => {
        if (this.groups.has(id)) return this.filledRows(id).map(() => null);
        return row?.values.get(id) ?? this.top.values.get(id) ?? null;
      },
      column: (group, id) => {
        const known = this.columnCache.get(id) ?? this.filledRows(group).map((one) => one.values.get(id) ?? null);
        this.columnCache.set(id, known);
        return known;
      },
    };
  }

  private tell(): void {
    this.count++;
    for (const told of this.watchers) told();
  }
}

const last = (place: Place): string => place[place.length - 1] ?? '';
const isBlankState = (row: RowState): boolean => {
  for (const raw of row.raw.values()) if (!isBlank(raw)) return false;
  return true;
};
const asAnswerRow = (row: RowState): AnswerRow => ({ id: row.id, cells: Object.fromEntries(row.raw) });

function readsGroup(formula: Formula, group: string, form: CompiledForm): boolean {
  for (const id of formula.reads) if (id === group || form.fields.get(id)?.group === group) return true;
  return false;
}

/** What an answer looks like to people: names for records and codes, grouped numbers, written-out dates. */
export function shown(question: FieldQuestion, value: Value): string {
  if (question.kind === 'lookup') return isRecord(value) ? value.title : '';
  return kinds[question.kind === 'calculated' ? 'decimal' : question.kind].show(value, question);
}
