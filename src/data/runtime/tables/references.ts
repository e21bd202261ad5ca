import { sql } from 'drizzle-orm';
import type { Tx } from '../../connect';

/** A foreign key among designed tables, as the database has it. */
export interface Reference {
  /** Keys of tables. */
  readonly from: string;
  readonly to: string;
  /** The physical column; `parent_id` for rows that belong to a record. */
  readonly column: string;
}

export async function readReferences(tx: Tx): Promise<Reference[]> {
  const { rows } = await tx.execute<{ from: string; to: string; column: string }>(sql`
    SELECT t.relname AS from, f.relname AS to, a.attname AS column FROM pg_constraint c
    JOIN pg_class t ON t.oid = c.conrelid JOIN pg_class f ON f.oid = c.confrelid JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
    WHERE c.contype = 'f' AND t.relnamespace = 'records'::regnamespace AND f.relnamespace = 'records'::regnamespace ORDER BY 1, 3`);
  return rows;
}
