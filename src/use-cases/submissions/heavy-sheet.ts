import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Answers } from '../../core/form/answers';
import type { FormDesign } from '../../core/form/design';
import type { PickedRecord } from '../../core/form/picked-record';
import type { WorkedCell } from '../../core/form/recalculation';
import type { KnownPerson } from '../../core/expression/person';
import type { Workspace } from '../../core/workspace';
import { unpack, type Packed } from '../../core/expression/transfer';
import type { Table } from '../../core/table/model';

/** All that working a sheet out needs, as plain data. */
export interface SheetToWorkOut {
  readonly job: number;
  readonly design: FormDesign;
  readonly tables: ReadonlyMap<string, Table>;
  readonly answers: Answers;
  readonly picked: Readonly<Record<string, PickedRecord[]>>;
  readonly now: string;
  readonly sender: KnownPerson | null;
  readonly workspace: Workspace;
}

export interface WorkedOut {
  readonly job: number;
  readonly cells: readonly (Omit<WorkedCell, 'value'> & { readonly value: Packed })[];
}

/**
 * Steps that a request works out by itself: about 50 ms, for it keeps everybody waiting who is served by the
 * same thread. What takes more is calculated by a thread beside it, with all the steps a sheet may take.
 */
export const QUICK_STEPS = 50_000;
/** A sheet takes a second of a free core at most; the thread itself takes one to begin. */
const LONGEST_MS = 12_000;
/** Heavy sheets that may wait for the thread; more are told to come back. */
const MOST_WAITING = 8;

/** The thread is busy with others' sheets, or did not come to an end. */
export class TooHeavy extends Error {}

interface Waiting {
  readonly sheet: Omit<SheetToWorkOut, 'job'>;
  readonly done: (cells: WorkedCell[]) => void;
  readonly failed: (error: Error) => void;
}

let thread: Worker | null = null;
let jobs = 0;
/** The first is at work, the others wait. */
const queue: Waiting[] = [];
let timer: ReturnType<typeof setTimeout> | undefined;

/** Works a sheet out in the thread beside the server, one after the other. */
export function workedBeside(sheet: Omit<SheetToWorkOut, 'job'>): Promise<WorkedCell[]> {
  if (queue.length >= MOST_WAITING) return Promise.reject(new TooHeavy('too many heavy sheets at once'));
  return new Promise((done, failed) => {
    queue.push({ sheet, done, failed });
    if (queue.length === 1) next();
  });
}

/** Hands the first of the queue to the thread; its time runs from now on. */
function next(): void {
  const [first] = queue;
  if (first === undefined) return;
  timer = setTimeout(() => ended(new TooHeavy('a sheet took too long')), LONGEST_MS);
  running().postMessage({ ...first.sheet, job: ++jobs });
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
    if (job !== jobs) return;
    clearTimeout(timer);
    queue.shift()?.done(cells.map(({ value, ...cell }) => ({ ...cell, value: unpack(value) })));
    next();
  });
  begun.on('error', (error) => {
    if (thread === begun) ended(error);
  });
  thread = begun;
  return begun;
}

/** Ends the thread with the sheet it is at; the next one begins another. */
function ended(error: Error): void {
  clearTimeout(timer);
  const over = thread;
  thread = null;
  void over?.terminate();
  queue.shift()?.failed(error);
  next();
}
