import { and, lt, ne, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import {
  accountMail,
  bulkChange,
  event,
  eventCounter,
  eventDelivery,
  invitation,
  notice,
  outbox,
  outsideMail,
  requestKey,
  session,
  signInTry,
  verification,
} from './schema';
import { limits } from '../../core/limits';

/**
 * Days after which what is over is nobody's any more. A device that was away for longer than a request key is
 * kept begins anew from what is stored.
 */
const DAYS = { outbox: 7, notice: 180, requestKey: 30, signInTry: 2, invitation: 30, bulk: 30 } as const;

/**
 * Takes away what has served: what was told, keys of requests that were answered, bulk changes, and sessions
 * and invitations that have run out. Gives how many rows.
 */
export async function prune(tx: Tx, now: Date): Promise<number> {
  const before = (days: number): Date => new Date(now.getTime() - days * 86_400_000);
  const done = [
    // Ids grow with time, and it is by them that the table is kept in order.
    await tx.execute(
      sql`DELETE FROM ${outbox} WHERE id <= (SELECT max(id) FROM ${outbox} WHERE at < ${before(DAYS.outbox).toISOString()}::timestamptz)`,
    ),
    await tx.delete(notice).where(lt(notice.at, before(DAYS.notice))),
    await tx.delete(requestKey).where(lt(requestKey.at, before(DAYS.requestKey))),
    await tx.delete(signInTry).where(lt(signInTry.lastAt, before(DAYS.signInTry))),
    await tx.delete(invitation).where(lt(invitation.expiresAt, before(DAYS.invitation))),
    await tx
      .delete(bulkChange)
      .where(and(ne(bulkChange.state, 'running'), lt(bulkChange.createdAt, before(DAYS.bulk)))),
    // Those of records that are gone for good.
    await tx.execute(
      sql`DELETE FROM slate.file WHERE record_id IS NOT NULL AND NOT slate.sees_record(table_id, record_id)`,
    ),
    // What was brought and belongs to nothing, unless a draft still names it.
    await tx.execute(
      sql`DELETE FROM slate.file f WHERE f.record_id IS NULL AND f.submission_id IS NULL AND f.created_at < CASE WHEN f.visit IS NULL THEN ${before(limits.fileDays).toISOString()}::timestamptz ELSE ${before(limits.visitFileDays).toISOString()}::timestamptz END AND NOT EXISTS (SELECT 1 FROM slate.submission s WHERE s.sender_id = f.by_id AND s.state IN ('draft', 'sent-back') AND s.answers::text LIKE '%' || f.id || '%')`,
    ),
    // Where no mail server is named any more, nobody takes them.
    await tx.delete(accountMail).where(lt(accountMail.at, before(limits.newsDays))),
    await tx.delete(outsideMail).where(lt(outsideMail.at, before(limits.newsDays))),
    // Places are given in the order of time, and it is by them that programs go on.
    await tx.execute(
      sql`WITH old AS (SELECT max(position) AS last FROM ${event} WHERE at < ${before(limits.eventDays).toISOString()}::timestamptz),
        said AS (UPDATE ${eventCounter} c SET gone = old.last FROM old WHERE old.last > c.gone)
        DELETE FROM ${event} WHERE position <= (SELECT last FROM old)`,
    ),
    await tx.delete(eventDelivery).where(lt(eventDelivery.at, before(limits.deliveryDays))),
    await tx.delete(session).where(lt(session.expiresAt, now)),
    await tx.delete(verification).where(lt(verification.expiresAt, now)),
  ];
  return done.reduce((all, { rowCount }) => all + (rowCount ?? 0), 0);
}
