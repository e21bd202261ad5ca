import { sql } from 'drizzle-orm';
import type { PastEvent } from '../../core/approval/at-step';
import type { ApprovalStep } from '../../core/form/design';
import type { SubmissionState } from '../../core/approval/path';
import type { Tx } from '../connect';

/** A step that something waits at, as administrators see it. */
export interface WaitingRow {
  readonly id: string;
  readonly number: string | null;
  readonly title: string;
  readonly sender: string;
  readonly labels: readonly string[];
  readonly step: number;
  readonly asked: readonly string[];
  /** ISO date-time. */
  readonly since: string;
  /** Nobody who is here can decide it. */
  readonly stuck: boolean;
  /** Why it could not go on without a step that is late; null where that was not tried, or need not be. */
  readonly trouble: string | null;
}

/** For administrators alone; the database says so as well. */
export async function waitingCases(tx: Tx, words: string, most: number): Promise<WaitingRow[]> {
  const { rows } = await tx.execute<{ [K in keyof WaitingRow]: WaitingRow[K] }>(
    sql`SELECT id, number, title, sender, labels, step, asked, to_char(since AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS since, stuck, trouble FROM slate.waiting_cases(${words}, ${most}::int)`,
  );
  return rows;
}

export async function countStuck(tx: Tx): Promise<number> {
  const { rows } = await tx.execute<{ n: number }>(sql`SELECT slate.count_stuck() AS n`);
  return rows[0]?.n ?? 0;
}

/** What moving one needs to know of it, and nothing of what was answered. */
export interface CaseInHand {
  readonly state: SubmissionState;
  readonly sender: string;
  readonly step: number | null;
  readonly steps: readonly ApprovalStep[];
  readonly open: readonly { readonly step: number; readonly asked: readonly string[] }[];
  readonly events: readonly PastEvent[];
}

/** Locked until the transaction ends; null where there is none. */
export async function caseInHand(tx: Tx, id: string): Promise<CaseInHand | null> {
  const { rows } = await tx.execute<{ found: CaseInHand | null }>(
    sql`SELECT slate.case_in_hand(${id}::uuid) AS found`,
  );
  return rows[0]?.found ?? null;
}

export async function moveCase(
  tx: Tx,
  id: string,
  { from, to, person, word, at }: { from: number; to: number; person: string; word: string; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.move_case(${id}::uuid, ${from}::int, ${to}::int, ${person}::uuid, ${word}, ${at.toISOString()}::timestamptz)`,
  );
}
