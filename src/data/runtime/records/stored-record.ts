import { sql } from 'drizzle-orm';
import type { Tx } from '../../connect';
import { tableName } from '../../identifiers';
import type { Table } from '../../../core/table/model';

type Texts = Readonly<Record<string, string | null>>;

/** A record with its rows, every value as PostgreSQL writes it as text, by the ids of tables and columns. */
export interface RecordTexts {
  readonly number: string;
  readonly version: number;
  readonly removed: boolean;
  readonly values: Texts;
  readonly rows: Readonly<
    Record<
      string,
      readonly {
        readonly id: string;
        /** The row it stands in, where it is not one of the record itself. */
        readonly of?: string;
        readonly version: number;
        readonly position: number;
        readonly values: Texts;
      }[]
    >
  >;
}

/** A record as whoever asks sees it; null where it is not there for them. */
export async function storedRecord(tx: Tx, table: string, id: string): Promise<RecordTexts | null> {
  const { rows } = await tx.execute<{ found: RecordTexts | null }>(
    sql`SELECT slate.stored_record(${table}::uuid, ${id}::uuid) AS found`,
  );
  return rows[0]?.found ?? null;
}

/** The record a submission changes, to those who see the submission. */
export async function recordOfSubmission(tx: Tx, submission: string): Promise<RecordTexts | null> {
  const { rows } = await tx.execute<{ found: RecordTexts | null }>(
    sql`SELECT slate.record_of_submission(${submission}::uuid) AS found`,
  );
  return rows[0]?.found ?? null;
}

/** Lets nobody else change the record, by a form or in the grid, until the transaction ends. */
export async function lockRecord(tx: Tx, table: Table, id: string): Promise<void> {
  await tx.execute(sql`SELECT 1 FROM ${tableName(table)} WHERE id = ${id}::uuid FOR UPDATE`);
}
