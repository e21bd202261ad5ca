import { digestParts, type Digest } from '../../core/approval/digest';
import { notFound } from '../../core/kernel/refusal';
import { fail, ok } from '../../core/kernel/result';
import { readSubmission } from '../../data/system/submissions';
import { keepDigest, undigested } from '../../data/system/submission-lists';
import { asOwner, asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { logFault } from '../workspace/log-fault';
import { figuresBeyond, sheetFor } from './past-cases';

/**
 * Works out what lists say of something that waits, as somebody who sees it, and keeps it for all who do;
 * null where that cannot be told.
 */
export async function digested(context: Context, id: string): Promise<Digest | null> {
  const read = await asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readSubmission(tx, id);
    const sheet = row === null ? null : await sheetFor(tx, catalogue, context, row);
    return row === null || sheet === null
      ? fail(notFound('submission'))
      : ok({ sheet, version: row.version });
  });
  if (!read.ok) return null;
  const { sheet, version } = read.value;
  const beyond = await figuresBeyond(context, sheet.form.design, sheet);
  if (!beyond.ok) return null;
  const digest = { told: digestParts(sheet), beyond: beyond.value.length };
  await asOwner({ person: context.person.id }, async (tx) => ok(await keepDigest(tx, id, version, digest)));
  return digest;
}

/** Of so many in one round. */
const AT_ONCE = 500;

/** The same for all that waits and has none yet, each as its sender. */
export async function digestWaiting(now = new Date()): Promise<void> {
  const found = await asOwner({ person: '' }, async (tx, { people }) =>
    ok(
      (await undigested(tx, AT_ONCE)).flatMap(({ id, sender }) => {
        const person = people.get(sender);
        return person === undefined ? [] : [{ id, person }];
      }),
    ),
  );
  for (const { id, person } of found.ok ? found.value : [])
    await digested({ person, now }, id).catch(
      (error: unknown) => void logFault(error, 'the digest of something sent'),
    );
}
