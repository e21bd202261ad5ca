import { Logger, run, type JobHelpers } from 'graphile-worker';
import { isUuid } from '../core/kernel/ids';
import { changeTable, giveUpChange } from '../use-cases/tables/change-table';
import { giveUpImport, keepImport, tryImport } from '../use-cases/imports/keep-import';
import { logFault } from '../use-cases/workspace/log-fault';
import { askDueRefreshes, refreshLink } from '../use-cases/links/refresh-link';
import { pruneOld } from '../use-cases/workspace/prune-old';
import { makeSortIndex, makeWordsIndex } from '../use-cases/tables/make-index';
import { readSheets } from '../use-cases/imports/read-import';
import { giveUpBulk, runBulkChange } from '../use-cases/records/run-bulk-change';
import { deliverEvents } from '../use-cases/events/deliver-events';
import { whenSomethingHappens } from '../use-cases/workspace/when-something-happens';
import { lookOverDue, lookOverStuck } from '../use-cases/notices/look-over-due';
import { digestWaiting } from '../use-cases/submissions/digest';
import { mailNotices } from '../use-cases/notices/mail-notices';
import { keepSealed } from '../use-cases/trail/read-trail';
import { followDueList } from '../use-cases/people/follow-list';
import { renewHolidays } from '../use-cases/workspace/renew-holidays';
import { resumeJobs } from '../use-cases/workspace/resume-jobs';

/** The process that does what takes long: one for each server, beside it, so that reading a large sheet keeps nobody waiting. */
const idOf = (payload: unknown, of: Of): string => {
  const id =
    typeof payload === 'object' && payload !== null && of in payload
      ? (payload as Record<string, unknown>)[of]
      : null;
  if (typeof id !== 'string' || !isUuid(id)) throw new Error(`a job without its ${of}`);
  return id;
};

type Of = 'import' | 'change' | 'link' | 'bulk';

/** Tries again after a fault, and says so to the owner when it has tried often enough. */
const job =
  (of: Of, work: (id: string) => Promise<void>, giveUp: (id: string) => Promise<void>) =>
  async (
    payload: unknown,
    { job: { task_identifier: task, attempts, max_attempts: most } }: JobHelpers,
  ): Promise<void> => {
    const id = idOf(payload, of);
    try {
      await work(id);
    } catch (error) {
      logFault(error, `job ${task}`);
      if (attempts < most) throw error;
      await giveUp(id);
    }
  };

/** What is done again and again anyway: a fault is told, and the next round takes it up. Left as a failed job, each would stay for ever. */
const round = (task: string, work: () => Promise<unknown>) => async (): Promise<void> => {
  await work().catch((error: unknown) => void logFault(error, `job ${task}`));
};

await resumeJobs();
const runner = await run({
  connectionString: process.env['SLATE_OWNER_URL'] ?? '',
  concurrency: 2,
  noHandleSignals: true,
  pollInterval: 2_000,
  maxPoolSize: 4,
  logger: new Logger(() => () => undefined),
  taskList: {
    'read-import': job('import', readSheets, giveUpImport),
    'try-import': job('import', tryImport, giveUpImport),
    'keep-import': job('import', keepImport, giveUpImport),
    'change-table': job('change', changeTable, giveUpChange),
    'bulk-change': job('bulk', runBulkChange, giveUpBulk),
    'refresh-link': job('link', refreshLink, () => Promise.resolve()),
    'due-links': askDueRefreshes,
    'sort-index': async (payload) => makeSortIndex(payload),
    'words-index': async (payload) => makeWordsIndex(payload),
    'mail-notices': round('mail-notices', mailNotices),
    'deliver-events': round('deliver-events', deliverEvents),
    'look-over-due': round('look-over-due', lookOverDue),
    'digest-waiting': round('digest-waiting', digestWaiting),
    'look-over-stuck': round('look-over-stuck', lookOverStuck),
    'prune-old': async () => void (await pruneOld()),
    'seal-trail': round('seal-trail', keepSealed),
    'follow-people': round('follow-people', () => followDueList()),
    'renew-holidays': round('renew-holidays', renewHolidays),
  },
  // What is linked is looked at every minute; each table says how often it is refreshed. Each round of mails
  // and of what is due takes up what the one before left, so none is made up for. What has served goes by
  // night, or after a night that was missed.
  crontab: [
    '* * * * * due-links ?max=1',
    '* * * * * mail-notices ?max=1',
    '* * * * * deliver-events ?max=1',
    '* * * * * digest-waiting ?max=1',
    '*/10 * * * * look-over-due ?max=1',
    '*/5 * * * * seal-trail ?max=1',
    '*/5 * * * * follow-people ?max=1',
    '3 3 * * * look-over-stuck ?max=3&fill=1d',
    '17 3 * * * prune-old ?max=3&fill=1d',
    '41 3 * * * renew-holidays ?max=3&fill=1d',
  ].join('\n'),
});
whenSomethingHappens(round('deliver-events', deliverEvents));
// What somebody is told of is mailed at once; what comes within these seconds, in one mail.
whenSomethingHappens(round('mail-notices', mailNotices), {
  about: (topic) => topic.startsWith('person:'),
  gathered: 3_000,
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
