import { unreachable } from '../kernel/result';
import type { TableChange } from '../table/plan';
import type { Column } from '../table/model';

/** A change of tables in words, before it runs. */
export function changeSentence(change: TableChange): string {
  switch (change.t) {
    case 'make-table': return `Make the table ${change.table.key} with ${change.table.columns.length} columns`;
    case 'add-column': return `Add ${change.column.key} (${columnWords(change.column)}) to ${change.table.key}`;
    case 'relabel-table': return `Call ${change.table.key} “${change.table.label}” instead of “${change.before}”`;
    case 'relabel-column': return `Call ${change.table.key}.${change.column.key} “${change.column.label}” instead of “${change.before}”`;
    case 'loosen-column': return `Let ${change.table.key}.${change.column.key} be empty`;
    case 'change-choices': return `Change the choices of ${change.table.key}.${change.column.key}`;
    default: return unreachable(change);
  }
}

const words: Readonly<Record<Column['kind'], string>> = {
  text: 'text', whole: 'whole number', decimal: 'decimal number', money: 'money', date: 'date', time: 'time of day', 'date-time': 'date with time', 'yes-no': 'yes or no', choice: 'one choice', reference: 'a record',
  'e-mail': 'e-mail address', 'web-address': 'web address', phone: 'telephone number',
};
export const columnWords = (column: Pick<Column, 'kind'>): string => words[column.kind];
