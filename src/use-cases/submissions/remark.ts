import { mentioned } from '../../core/approval/mentioned';
import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { askedOf, insertRemark, readEvents, readSubmission } from '../../data/system/submissions';
import { standsInFor } from '../../data/system/absences';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';
import { onPath } from './submission-data';

/**
 * A word without a decision: a question to the sender, or an answer, about one line or all of it. Whoever
 * only looks has none. Those on its path whom it names with an @ are told, also where they have decided
 * already.
 */
export function remark(
  context: Context,
  id: string,
  { key, word, place = null }: { key: string; word: string; place?: string | null | undefined },
): Promise<Result<null, Refusal>> {
  const said = word.trim();
  return asPerson({ person: context.person.id }, (tx, catalogue) =>
    once(tx, context, key, { operation: 'remark', of: id, said: [said, place] }, async () => {
      const row = await readSubmission(tx, id);
      if (row === null || row.number === null) return fail(notFound('submission'));
      const asked = await askedOf(tx, id);
      const stands = await standsInFor(tx);
      const isOnPath =
        row.senderId === context.person.id ||
        asked.some(({ person, open }) => person === context.person.id || (open && stands.has(person)));
      if (!isOnPath) return fail(forbidden('not-asked'));
      if (said === '') return fail(invalid(issue('word-needed', ['word'], { decision: 'remark' })));
      const events = await readEvents(tx, id);
      const before = events.filter(({ kind }) => kind === 'remark').length;
      if (before >= limits.remarks)
        return fail(invalid(issue('too-many', ['word'], { what: 'remarks', most: limits.remarks })));
      const tells = mentioned(said, onPath(catalogue, row.senderId, asked, events));
      await insertRemark(tx, id, { word: said, place, tells: tells.map((one) => one.id), at: context.now });
      return ok(null);
    }),
  );
}
