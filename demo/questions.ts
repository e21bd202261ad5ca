import type { FieldQuestion, LookupQuestion, TableTarget } from '../src/core/form/design';
import type { ChoiceList } from '../src/core/table/choice-list';
import { choicesOf } from './lists';
import { tableId } from './tables';

/** Questions of the sample forms, said shortly. Expressions are written with ids, as they are stored. */
export const target = (n: number, key: string, label: string, prefix: string): TableTarget => ({
  id: tableId(n),
  key,
  label,
  prefix,
});
export const base = (id: string, key: string, label: string, required = true) => ({
  id,
  key,
  label,
  hint: '',
  required,
});
export const lookup = (
  id: string,
  key: string,
  label: string,
  table: number,
  show: string[],
): LookupQuestion => ({
  ...base(id, key, label),
  kind: 'lookup',
  table: tableId(table),
  show,
});
export const date = (id: string, key: string, label: string): FieldQuestion => ({
  ...base(id, key, label),
  kind: 'date',
});
export const yesNo = (id: string, key: string, label: string, required = false): FieldQuestion => ({
  ...base(id, key, label, required),
  kind: 'yes-no',
});
export const text = (
  id: string,
  key: string,
  label: string,
  long = false,
  required = false,
): FieldQuestion => ({
  ...base(id, key, label, required),
  kind: 'text',
  long,
});
export const decimal = (
  id: string,
  key: string,
  label: string,
  decimals: number,
  unit: string,
): FieldQuestion => ({
  ...base(id, key, label),
  kind: 'decimal',
  decimals,
  unit,
});
export const calculated = (
  id: string,
  key: string,
  label: string,
  expression: string,
  decimals: number,
  unit: string,
): FieldQuestion => ({ ...base(id, key, label, false), kind: 'calculated', expression, decimals, unit });
export const choice = (id: string, key: string, label: string, labels: string[]): FieldQuestion => ({
  ...base(id, key, label),
  kind: 'choice',
  choices: choicesOf(labels),
});
export const ofList = (
  id: string,
  key: string,
  label: string,
  { id: list, label: name, choices }: ChoiceList,
): FieldQuestion => ({ ...base(id, key, label), kind: 'choice', choices, list: { id: list, label: name } });
