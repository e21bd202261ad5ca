import { mailWords } from '../../core/check/sheet-issues';
import type { Mailed } from '../../core/form/design';
import { notFound } from '../../core/kernel/refusal';
import { fail, ok } from '../../core/kernel/result';
import { readRelease } from '../../data/system/forms';
import { readSubmission } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import { sheetOf } from '../submissions/sheet-of';
import { logFault } from '../workspace/log-fault';

/**
 * What the owner of a form has a mail say besides, with the values that whoever gets it may see; empty where
 * it says nothing. A mail goes without rather than not at all.
 */
export async function wordsBesides(who: string, submission: string, on: Mailed, now: Date): Promise<string> {
  try {
    const found = await asPerson({ person: who }, async (tx, catalogue) => {
      const row = await readSubmission(tx, submission);
      const release = row === null ? null : await readRelease(tx, catalogue, row.releaseId);
      const person = catalogue.people.get(who);
      if (row === null || release === null || person === undefined) return fail(notFound('submission'));
      const { id, answers, senderId } = row;
      const use = row.ofRecord === null ? 'new' : 'change';
      const sheet = await sheetOf(tx, catalogue, { person, now }, { id, release, answers, senderId, use });
      return ok(mailWords(sheet, on) ?? '');
    });
    return found.ok ? found.value : '';
  } catch (error) {
    logFault(error, 'the words of a mail');
    return '';
  }
}
