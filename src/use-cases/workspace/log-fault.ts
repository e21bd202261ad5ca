import { databaseFault } from '../../data/field-issues';
import { unavailable, type Refusal } from '../../core/kernel/refusal';
import { log } from '../../data/log';
import { refusedBy as refusedByDatabase } from '../../data/transaction';
import { TooHeavy } from '../submissions/heavy-sheet';

/** What a thrown error means to the person who waits; null for a fault of ours. */
export const refusedBy = (error: unknown): Refusal | null =>
  error instanceof TooHeavy ? unavailable('too-slow', 10) : refusedByDatabase(error);

/** Logs what was thrown, without parameters or answers, and gives the reference a person can quote. */
export function logFault(error: unknown, where: string): string {
  const reference = crypto.randomUUID().slice(0, 8);
  const database = databaseFault(error);
  log.error(
    {
      reference,
      where,
      name: error instanceof Error ? error.name : typeof error,
      sqlstate: database?.code,
      stack: error instanceof Error ? stackOnly(error) : undefined,
    },
    'fault',
  );
  return reference;
}

/** The message of a database error may hold SQL and values; its stack from the first frame does not. */
function stackOnly(error: Error): string {
  const frames = (error.stack ?? '').split('\n').filter((line) => line.trimStart().startsWith('at '));
  const words = databaseFault(error) === null ? error.message : 'database error';
  return [words, ...frames.slice(0, 12)].join('\n');
}
