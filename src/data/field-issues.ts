import { DrizzleQueryError } from 'drizzle-orm';
import { issue, type Issue } from '../core/kernel/issue';
import { limits } from '../core/limits';
import type { Table } from '../core/table/model';
import { checkOfConstraint, columnOfConstraint } from './identifiers';

interface Fault {
  readonly message?: string;
  readonly detail?: string;
  readonly code?: string;
  readonly constraint?: string;
  readonly column?: string;
}

/** PostgreSQL's own words for an error, under the library's wrapping. */
export function databaseFault(error: unknown): Fault | null {
  const cause = error instanceof DrizzleQueryError ? error.cause : error;
  return typeof cause === 'object' && cause !== null && 'code' in cause ? (cause as Fault) : null;
}

/** A broken constraint of a designed table, as an issue at the column it guards; null when it is something else. */
export function fieldIssue(error: unknown, table: Table | undefined): Issue | null {
  const fault = databaseFault(error);
  if (fault === null || table === undefined) return null;
  const check = table.checks.find(({ id }) => id === checkOfConstraint(fault.constraint ?? ''));
  if (check !== undefined)
    return issue('check-stops', [check.on], { check: check.id, message: check.message });
  if (fault.code === '23503' && fault.constraint?.endsWith('parent_id_fkey') === true)
    return issue('record-gone', ['parent_id'], { label: 'The record it is a row of' });
  const column = columnAt(fault, table);
  if (column === undefined)
    return table.linked === null ? null : sourceIssue(fault, table, table.linked.source);
  const facts = { label: column.label };
  switch (fault.code) {
    case '23505':
      return issue('already-used', [column.id], facts);
    case '23503':
      return issue('record-gone', [column.id], facts);
    case '23502':
      return issue('required', [column.id], facts);
    case '23514':
      return issue('not-a-choice', [column.id], facts);
    case '22003':
      return issue('number-too-large', [column.id], { ...facts, most: limits.numberDigits });
    default:
      return null;
  }
}

/**
 * What stood in the way where a linked table's records are kept. Of another database's refusal only the words
 * come through, with the name of the rule in them.
 */
function sourceIssue({ code = '', message = '' }: Fault, { label }: Table, source: string): Issue | null {
  const facts = { table: label, source };
  if (code === 'TS001') return issue('source-fixed', [], facts);
  if (code === 'TS002') return issue('source-changed', [], facts);
  if (code.startsWith('08') || code === '28P01' || code === '28000' || code === '57014')
    return issue('source-silent', [], facts);
  return code.startsWith('23') || code === '42501' || code.startsWith('22') || code === 'P0001'
    ? issue('source-refused', [], { ...facts, rule: /constraint "([^"]+)"/.exec(message)?.[1] ?? '' })
    : null;
}

function columnAt(fault: Fault, table: Table): Table['columns'][number] | undefined {
  const id = fault.constraint === undefined ? null : columnOfConstraint(fault.constraint);
  // While a change fills a table, an index that will be the column's stands under another name.
  return table.columns.find(
    (column) => column.id === id || `n${column.id}` === id || column.key === fault.column,
  );
}
