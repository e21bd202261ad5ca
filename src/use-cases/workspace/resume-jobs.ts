import { ok } from '../../core/kernel/result';
import { askImportJob, dropEndedPieces, workingImports } from '../../data/system/imports';
import { askChangeJob, runningChanges } from '../../data/system/table-changes';
import { askBulkJob, runningBulks } from '../../data/system/bulk-changes';
import { asOwner } from '../../data/transaction';

/**
 * Asks again for the jobs of imports, changes and bulk changes that were under way when their process ended.
 * One that is in fact still at work is not harmed: reading twice gives the same, and of two that keep or
 * change, the second finds it done.
 */
export async function resumeJobs(): Promise<void> {
  await asOwner({ person: '' }, async (tx) => {
    for (const { id, state } of await workingImports(tx))
      await askImportJob(
        tx,
        state === 'reading' ? 'read-import' : state === 'trying' ? 'try-import' : 'keep-import',
        id,
      );
    await dropEndedPieces(tx);
    for (const id of await runningChanges(tx)) await askChangeJob(tx, id);
    for (const id of await runningBulks(tx)) await askBulkJob(tx, id);
    return ok(null);
  });
}
