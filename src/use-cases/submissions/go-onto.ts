import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { ontoRecord } from '../../core/storage/onto-record';
import { readRelease } from '../../data/system/forms';
import { readSubmission, turnToRecord } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { mayChangeIt, recordFor } from './record-in-change';

/**
 * A draft of a new record goes on as a change of one that is there: a form may find records by what is
 * answered. Its sender sees what that would change, and sends it then.
 */
export async function goOnto(
  context: Context,
  id: string,
  { version, record }: { version: number; record: string },
): Promise<Result<{ version: number }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readSubmission(tx, id, true);
    const release = row === null ? null : await readRelease(tx, catalogue, row.releaseId);
    if (row === null || release === null || row.senderId !== context.person.id)
      return fail(notFound('submission'));
    if (row.state !== 'draft') return fail(stale('already-sent', { state: row.state }));
    // Asked again, because the answer was lost.
    if (row.ofRecord === record) return ok({ version: row.version });
    if (row.version !== version) return fail(stale('draft-changed', { version: row.version }));
    const changed = { id: row.formId, design: release.design, record };
    if (!(await mayChangeIt(tx, catalogue, context.person.id, changed)))
      return fail(forbidden('change-by-form'));
    const now = await recordFor(tx, catalogue, release.design, record);
    if (now === null || now.removed || row.ofRecord !== null)
      return fail(
        invalid(
          issue('record-not-there', [], {
            table: catalogue.tables.get(release.design.table.id)?.label ?? '',
          }),
        ),
      );
    const answers = ontoRecord(now.answers, row.answers);
    await turnToRecord(tx, id, { record, base: now.answers, answers, at: context.now });
    return ok({ version: row.version + 1 });
  });
}
