import { compileForm, type CompiledForm } from '../../src/core/form/compile-form';
import type { FieldQuestion, FormDesign, Question, RowsQuestion, Section } from '../../src/core/form/design';
import { baseTables, tableId } from '../../demo/tables';

/** Small forms, written as briefly as can be, for tests of the pure core. */
export const tables = new Map(baseTables.map((table) => [table.id, table]));
export const base = (id: string) => ({ id, key: id, label: id.toUpperCase(), hint: '', required: false });
export const number = (id: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'whole',
  unit: '',
  ...more,
});
export const text = (id: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'text',
  long: false,
  ...more,
});
export const sum = (id: string, expression: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'calculated',
  expression,
  decimals: 0,
  unit: '',
  ...more,
});
export const target = (n: number) => ({ id: tableId(n), key: `t${n}`, label: `Table ${n}`, prefix: `T${n}` });
export const lines = (columns: readonly FieldQuestion[], more: Partial<RowsQuestion> = {}): RowsQuestion => ({
  ...base('lines'),
  kind: 'rows',
  columns,
  least: 0,
  most: 20,
  totals: [],
  table: target(92),
  ...more,
});
export const section = (id: string, questions: readonly Question[], showWhen?: string): Section => ({
  id,
  title: `Section ${id}`,
  questions,
  ...(showWhen !== undefined && { showWhen }),
});
export const form = (sections: readonly Section[], more: Partial<FormDesign> = {}): FormDesign => ({
  format: 1,
  title: 'A form',
  area: '',
  sections,
  checks: [],
  steps: [],
  table: target(91),
  ...more,
});
export function compiled(design: FormDesign): CompiledForm {
  const made = compileForm(design, tables);
  if (!made.ok) throw new Error(JSON.stringify(made.error));
  return made.value;
}
export const check = (id: string, on: string, must: string, message = 'No.') => ({
  id,
  on,
  must,
  message,
  otherwise: 'stop' as const,
});
export const bed: FieldQuestion = { ...base('bed'), kind: 'lookup', table: tableId(1), show: ['cbedcode'] };
