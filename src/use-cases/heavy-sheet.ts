import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Answers } from '../core/form/answers';
import type { FormDesign } from '../core/form/design';
import type { PickedRecord } from '../core/form/picked-record';
import type { WorkedCell } from '../core/form/recalculation';
import type { KnownPerson } from '../core/expression/person';
import { unpack, type Packed } from '../core/expression/transfer';
import type { Table } from '../core/table/model';

/** All that working a sheet out needs, as plain data. */
export interface SheetToWorkOut {
  readonly job: number;
  readonly design: FormDesign;
  readonly tables: ReadonlyMap<string, Table>;
  readonly answers: Answers;
  readonly picked: Readonly<Record<string, PickedRecord[]>>;
  readonly now: string;
  readonly sender: KnownPerson | null;
}

export interface WorkedOut {
  readonly job: number;
  readonly cells: readonly (Omit<WorkedCell, 'value'> & { readonly value: Packed })[];
}

/**
 * Steps that a request works out by itself: about 50 ms, for it keeps everybody waiting who is served by the same thread. What takes more is
 * worked out by a thread beside it, with all the steps a sheet may take.
 */
export const QUICK_STEPS = 50_000;
/** A sheet takes a second at most; the thread itself takes one to begin. */
const LONGEST_MS = 5_000;
/** Heavy sheets that may wait for the thread; more are told to come back. */
const MOST_WAITING = 8;

/** The thread is busy with others' sheets, or did not come to an end. */
export class TooHeavy extends Error {}

interface Waiting {
  readonly done: (cells: WorkedCell[]) => void;
  readonly failed: (error: Error) => void;
  readonly timer: ReturnType<typeof setTimeout>;
}

let thread: Worker | null = null;
let jobs = 0;
const waiting = new Map<number, Waiting>();

/** Works a sheet out in the thread beside the server, one after the other. */
export function workedBeside(sheet: Omit<SheetToWorkOut, 'job'>): Promise<WorkedCell[]> {
  if (waiting.size >= MOST_WAITING) return Promise.reject(new TooHeavy('too many heavy sheets at once'));
  const job = ++jobs;
  return new Promise((done, failed) => {
    const timer = setTimeout(() => end(new TooHeavy('a sheet took too long')), LONGEST_MS);
    waiting.set(job, { done, failed, timer });
    running().postMessage({ ...sheet, job });
  });
}

function running(): Worker {
  if (thread !== null) return thread;
  const begun = new Worker(join(process.cwd(), 'scripts', 'sheet-thread.mjs'), {
    execArgv: [],
    // It works on what it is handed, and needs no password of ours.
    env: { NODE_ENV: process.env['NODE_ENV'] ?? '' },
    resourceLimits: { maxOldGenerationSizeMb: 256 },
  });
  begun.unref();
  begun.on('message', ({ job, cells }: WorkedOut) => {
    const one = waiting.get(job);
    waiting.delete(job);
    clearTimeout(one?.timer);
    one?.done(cells.map(({ value, ...cell }) => ({ ...cell, value: unpack(value) })));
  });
  begun.on('error', (error) => end(error));
  thread = begun;
  return begun;
}

/** Ends the thread with all that waits for it; the next sheet begins another. */
function end(error: Error): void {
  const ended = thread;
  thread = null;
  for (const one of waiting.values()) {
    clearTimeout(one.timer);
    one.failed(error);
  }
  waiting.clear();
  void ended?.terminate();
}
