import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { askedOf, insertRemark, readEvents, readSubmission } from '../../data/system/submissions';
import { standsInFor } from '../../data/system/absences';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';

/** A word without a decision: a question to the sender, or an answer. Whoever only looks has none. */
export function remark(
  context: Context,
  id: string,
  { key, word }: { key: string; word: string },
): Promise<Result<null, Refusal>> {
  const said = word.trim();
  return asPerson({ person: context.person.id }, (tx) =>
    once(tx, context, key, { operation: 'remark', of: id, said }, async () => {
      const row = await readSubmission(tx, id);
      if (row === null || row.number === null) return fail(notFound('submission'));
      const asked = await askedOf(tx, id);
      const stands = await standsInFor(tx);
      const isOnPath =
        row.senderId === context.person.id ||
        asked.some(({ person, open }) => person === context.person.id || (open && stands.has(person)));
      if (!isOnPath) return fail(forbidden('not-asked'));
      if (said === '') return fail(invalid(issue('word-needed', ['word'], { decision: 'remark' })));
      const before = (await readEvents(tx, id)).filter(({ kind }) => kind === 'remark').length;
      if (before >= limits.remarks)
        return fail(invalid(issue('too-many', ['word'], { what: 'remarks', most: limits.remarks })));
      await insertRemark(tx, id, said, context.now);
      return ok(null);
    }),
  );
}
