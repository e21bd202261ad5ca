import { sql, type SQL } from 'drizzle-orm';
import type { LimitedAction } from '../../../core/record/row-rules';
import type { Table } from '../../../core/table/model';
import { stampName, tableName } from '../../identifiers';
import { literal } from './literal';

/** What the database itself lets somebody do with the records of a table. */
export interface Policy {
  readonly name: 'seen' | 'added' | 'changed' | 'removed';
  readonly command: 'SELECT' | 'INSERT' | 'UPDATE' | 'DELETE';
  readonly holds: SQL;
}

/** When something may be done with some records, besides where it may be done with all of them. */
export type Allowed = (action: LimitedAction) => readonly SQL[];

/**
 * Each question of rights stands in a `SELECT` of its own, so that it is asked once for a statement and not
 * for each record. `above` is the table whose rows these are: they are there for whoever sees the record they
 * belong to.
 */
export function policiesOf(table: Table, above: Table | null, allowed: Allowed): Policy[] {
  const id = literal(table.id);
  const may = (...actions: readonly LimitedAction[]): SQL => {
    const all = actions.map((action) => sql`(SELECT slate.may_all(${id}, ${literal(action)}))`);
    const some = actions.flatMap(allowed);
    return withRecord(sql.join([...all, ...some], sql` OR `), above);
  };
  const beside = sql`(SELECT slate.columns_beside(${id})) IS NOT NULL`;
  const keeps = sql`(SELECT slate.keeps_in(${id}))`;
  const picks = sql`(SELECT slate.picks_from(${id}))`;
  return [
    { name: 'seen', command: 'SELECT', holds: sql`${may('see')} OR ${picks} OR ${keeps} OR ${beside}` },
    { name: 'added', command: 'INSERT', holds: sql`${may('add')} OR ${keeps}` },
    {
      name: 'changed',
      command: 'UPDATE',
      holds: sql`${may('change', 'remove')} OR ${inHand(table)} OR ${beside}`,
    },
    { name: 'removed', command: 'DELETE', holds: may('remove') },
  ];
}

const withRecord = (allowed: SQL, above: Table | null): SQL =>
  above === null
    ? sql`(${allowed})`
    : sql`((${allowed}) AND (NOT (SELECT slate.is_limited(${literal(above.id)})) OR ${stampName('parent_id')} IN (SELECT above.id FROM ${tableName(above)} AS above)))`;

/** That the submission which is being kept changes it: the record it names, one of its rows, or what stands in one of these. */
function inHand({ id, parent }: Table): SQL {
  if (parent === null) return sql`id = (SELECT slate.record_in_hand(${literal(id)}))`;
  const [own, of] = [stampName('parent_id'), literal(parent)];
  return sql`${own} = (SELECT slate.record_in_hand(${of})) OR ${own} = ANY ((SELECT slate.rows_in_hand(${of}))::uuid[])`;
}

/** Of a table of which nobody sees a part yet. */
export const makePolicies = (table: Table): SQL[] =>
  policiesOf(table, null, () => []).map(
    (policy) =>
      sql`CREATE POLICY ${sql.raw(policy.name)} ON ${tableName(table)} FOR ${sql.raw(policy.command)} ${policyClause(policy)}`,
  );

export const policyClause = ({ command, holds }: Policy): SQL =>
  sql`${sql.raw(command === 'INSERT' ? 'WITH CHECK' : 'USING')} (${holds})`;
