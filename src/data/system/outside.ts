import { desc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../core/access/rules';
import type { LinkFacts } from '../../core/outside/link';
import { appDatabase, type Tx } from '../connect';
import type { OutsideNews } from '../../core/wording/outside-mail';
import { formLink, formOutside, outsideMail } from './schema';

export type OutsideRow = typeof formOutside.$inferSelect;
export type LinkRow = typeof formLink.$inferSelect;

/** A link as whoever comes by it is met: where it leads, and what the form says to people outside. */
export interface KnownLink extends LinkFacts {
  readonly link: string;
  readonly secret: string;
  readonly form: string;
  readonly formKey: string;
  /** Who sends by it. */
  readonly person: Omit<Person, 'roles'>;
  readonly welcome: string;
  readonly thanks: string;
  readonly lookups: readonly string[];
  readonly origins: readonly string[];
}

/** What a form says to people outside; null where it was never opened to any. For those who design it. */
export async function readOutside(tx: Tx, form: string): Promise<OutsideRow | null> {
  const [row] = await tx.select().from(formOutside).where(eq(formOutside.formId, form));
  return row ?? null;
}

/** The newest first. */
export const linksTo = (tx: Tx, form: string): Promise<LinkRow[]> =>
  tx.select().from(formLink).where(eq(formLink.formId, form)).orderBy(desc(formLink.madeAt), formLink.id);

type Said = Pick<OutsideRow, 'welcome' | 'thanks' | 'lookups' | 'origins' | 'mailTo' | 'version'>;

/** `version`: what it was drawn on, 0 for nothing. False where somebody said otherwise meanwhile. */
export async function putOutside(
  tx: Tx,
  form: string,
  { welcome, thanks, lookups, origins, mailTo, version }: Said,
): Promise<boolean> {
  const { rows } = await tx.execute<{ done: boolean }>(
    sql`SELECT slate.put_outside(${form}::uuid, ${welcome}, ${thanks}, ${sql.param(lookups)}::text[], ${sql.param(origins)}::text[], ${mailTo}, ${version}::int) AS done`,
  );
  return rows[0]?.done === true;
}

type NewLink = Pick<LinkRow, 'id' | 'formId' | 'personId' | 'label' | 'secret' | 'endsAt' | 'most'>;

export async function makeLink(tx: Tx, link: NewLink): Promise<void> {
  const { id, formId, personId, label, secret, endsAt, most } = link;
  await tx.execute(
    sql`SELECT slate.make_link(${id}::uuid, ${formId}::uuid, ${personId}::uuid, ${label}, ${secret}, ${endsAt?.toISOString() ?? null}::timestamptz, ${most}::int)`,
  );
}

/** False where there is none that could be stopped. */
export async function stopLink(tx: Tx, form: string, link: string): Promise<boolean> {
  const { rows } = await tx.execute<{ done: boolean }>(
    sql`SELECT slate.stop_link(${form}::uuid, ${link}::uuid) AS done`,
  );
  return rows[0]?.done === true;
}

export async function linkBySecret(secret: string): Promise<KnownLink | null> {
  const { rows } = await appDatabase().execute<{ known: KnownLink | null }>(
    sql`SELECT slate.link_by(${secret}) AS known`,
  );
  return rows[0]?.known ?? null;
}

/** By which link a submission was sent; for whoever has shown that it is theirs. */
export async function linkOfSubmission(submission: string): Promise<KnownLink | null> {
  const { rows } = await appDatabase().execute<{ known: KnownLink | null }>(
    sql`SELECT slate.link_of(${submission}::uuid) AS known`,
  );
  return rows[0]?.known ?? null;
}

/** Takes one of the places a link has, for a submission that is made in this transaction; false where none is left. */
export async function takePlace(tx: Tx): Promise<boolean> {
  const { rows } = await tx.execute<{ taken: boolean }>(sql`SELECT slate.take_place() AS taken`);
  return rows[0]?.taken === true;
}

/** What is to be told somebody outside. */
export interface OutsidePost {
  readonly id: number;
  readonly submission: string;
  readonly kind: OutsideNews;
  readonly address: string;
  readonly word: string;
  readonly title: string;
  readonly number: string;
}

/** After so long a claim is of a worker that was killed. */
const CLAIM_MS = 5 * 60_000;

/** Takes the next that is to be mailed and nobody else has taken, after one; as the owner role. What is too old to be news goes. */
export async function claimOutsideMail(
  tx: Tx,
  after: number,
  now: Date,
  olderThan: Date,
): Promise<OutsidePost | null> {
  const free = new Date(now.getTime() - CLAIM_MS).toISOString();
  await tx.execute(sql`DELETE FROM ${outsideMail} WHERE at < ${olderThan.toISOString()}::timestamptz`);
  const { rows } = await tx.execute<OutsidePost & Record<string, unknown>>(
    sql`WITH held AS (SELECT id FROM ${outsideMail} WHERE id > ${after} AND (claimed_at IS NULL OR claimed_at < ${free}::timestamptz) ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED),
      taken AS (UPDATE ${outsideMail} m SET claimed_at = ${now.toISOString()}::timestamptz FROM held WHERE m.id = held.id RETURNING m.*)
      SELECT t.id::int AS id, t.submission_id AS submission, t.kind, t.address, t.word, r.design->>'title' AS title, s.number
      FROM taken t JOIN slate.submission s ON s.id = t.submission_id JOIN slate.form_release r ON r.id = s.release_id`,
  );
  return rows[0] ?? null;
}

/** It was mailed, or never can be. */
export async function settleOutsideMail(tx: Tx, id: number): Promise<void> {
  await tx.delete(outsideMail).where(eq(outsideMail.id, id));
}

/** It is tried again in the next round. */
export async function giveBackOutsideMail(tx: Tx, id: number): Promise<void> {
  await tx.update(outsideMail).set({ claimedAt: null }).where(eq(outsideMail.id, id));
}
