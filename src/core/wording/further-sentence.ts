import { pickedOf, pickedSentence } from '../check/pick';
import { toShown } from '../expression/stored-text';
import type { Scope } from '../expression/type';
import type { FormDesign } from '../form/design';
import { groupOfWrite, lookupOfWrite, tableOfWrite } from '../form/further-writes';
import { scopeOf, type TablesById } from '../form/scope';
import type { ColumnSet, FurtherWrite } from '../storage/further-write';
import type { Table } from '../table/model';
import { speak } from './speak';

/**
 * What is written beside a sheet, as one sentence: “For each row of Lines, the record of Product is changed:
 * In stock is lowered by amount”.
 */
export function furtherSentence(write: FurtherWrite, design: FormDesign, tables: TablesById): string {
  const group = groupOfWrite(design, write);
  const scope = scopeOf(design, tables, group ?? undefined);
  const table = tables.get(tableOfWrite(design, write));
  const each = group === null ? '' : speak`for each row of ${group.label}`;
  const when = write.when === undefined ? '' : speak`where ${conditionWords(write.when, scope)}`;
  const before = [each, when].filter((words) => words !== '').join(', ');
  const sets = write.sets.map((set) => setWords(set, table, scope));
  const words = write.t === 'change' ? changeWords(write, design, sets) : addWords(table, sets);
  return upper(before === '' ? words : `${before}, ${words}`);
}

function changeWords(write: FurtherWrite, design: FormDesign, sets: readonly string[]): string {
  const picked = lookupOfWrite(design, write)?.lookup.label ?? speak`a record that is still to be named`;
  return speak`the record of ${picked} is changed${sets.length === 0 ? '' : `: ${sets.join(', ')}`}`;
}

const addWords = (table: Table | undefined, sets: readonly string[]): string =>
  speak`a record is added to ${table?.label ?? speak`a table that is still to be named`}${sets.length === 0 ? '' : `: ${sets.join(', ')}`}`;

function setWords(
  { column: id, how, expression }: ColumnSet,
  table: Table | undefined,
  scope: Scope,
): string {
  const column = table?.columns.find((one) => one.id === id);
  const what = toShown(expression, scope) || '…';
  const choice = column?.choices.find(({ code }) => `"${code}"` === expression.trim())?.label;
  const words = { set: 'becomes', raise: speak`is raised by`, lower: speak`is lowered by` }[how];
  return `${column?.label ?? speak`a column that is gone`} ${words} ${choice ?? what}`;
}

function conditionWords(stored: string, scope: Scope): string {
  const text = toShown(stored, scope);
  const picked = pickedOf(text, scope);
  return picked === null ? text || '…' : pickedSentence(picked, scope, 'is');
}

const upper = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
