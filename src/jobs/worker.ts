import { Logger, run, type JobHelpers } from 'graphile-worker';
import { isUuid } from '../core/kernel/ids';
import { giveUpImport, keepImport } from '../use-cases/keep-import';
import { logFault } from '../use-cases/log-fault';
import { readSheets } from '../use-cases/read-import';
import { resumeImports } from '../use-cases/resume-imports';

/** The process that does what takes long: one for each server, beside it, so that reading a large sheet keeps nobody waiting. */
const importOf = (payload: unknown): string => {
  const id = typeof payload === 'object' && payload !== null && 'import' in payload ? payload.import : null;
  if (typeof id !== 'string' || !isUuid(id)) throw new Error('a job without an import');
  return id;
};

/** Tries again after a fault, and says so to the owner when it has tried often enough. */
const importJob = (work: (id: string) => Promise<void>) => async (payload: unknown, { job }: JobHelpers): Promise<void> => {
  const id = importOf(payload);
  try {
    await work(id);
  } catch (error) {
    logFault(error, `job ${job.task_identifier}`);
    if (job.attempts < job.max_attempts) throw error;
    await giveUpImport(id);
  }
};

await resumeImports();
const runner = await run({
  connectionString: process.env['SLATE_OWNER_URL'] ?? '', concurrency: 2, noHandleSignals: true, pollInterval: 2_000, maxPoolSize: 4, logger: new Logger(() => () => undefined),
  taskList: { 'read-import': importJob(readSheets), 'keep-import': importJob(keepImport) },
});
process.send?.('working');

/** A job that takes longer is cut off, and taken up again by the next worker. */
const PATIENCE = 2_000;
const stop = (): void => {
  setTimeout(() => process.exit(0), PATIENCE).unref();
  void runner.stop().finally(() => process.exit(0));
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// The server beside us was killed: nobody would stop us, so we stop.
process.on('disconnect', stop);
