import { desc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../core/access/rules';
import type { Language } from '../../core/formats/formats';
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
  /** In which it meets people; null for that of the workspace. */
  readonly language: Language | null;
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

type Said = Pick<
  OutsideRow,
  'welcome' | 'thanks' | 'lookups' | 'origins' | 'mailTo' | 'language' | 'version'
>;

/** `version`: what it was drawn on, 0 for nothing. False where somebody said otherwise meanwhile. */
export async function putOutside(
  tx: Tx,
  form: string,
  { welcome, thanks, lookups, origins, mailTo, language, version }: Said,
): Promise<boolean> {
  const { rows } = await tx.execute<{ done: boolean }>(
    sql`SELECT slate.put_outside(${form}::uuid, ${welcome}, ${thanks}, ${sql.param(lookups)}::text[], ${sql.param(origins)}::text[], ${mailTo}, ${language}, ${version}::int) AS done`,
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
  /** The link by which it came, which sent it. */
  readonly sender: string;
  /** In which the form meets people outside; null for that of the workspace. */
  readonly language: Language | null;
  /** Whether the owner of the form has a mail of it say more. */
  readonly saysMore: boolean;
}

/** What a letter to somebody outside tells. */
export async function readOutsideMail(tx: Tx, id: number): Promise<OutsidePost | null> {
  const { rows } = await tx.execute<OutsidePost & Record<string, unknown>>(
    sql`SELECT m.id::int AS id, m.submission_id AS submission, m.kind, m.address, m.word, r.design->>'title' AS title, s.number, s.sender_id AS sender, coalesce(r.design->'mails' @> jsonb_build_array(jsonb_build_object('on', m.kind)), false) AS "saysMore", o.language
      FROM ${outsideMail} m JOIN slate.submission s ON s.id = m.submission_id JOIN slate.form_release r ON r.id = s.release_id LEFT JOIN ${formOutside} o ON o.form_id = r.form_id WHERE m.id = ${id}`,
  );
  return rows[0] ?? null;
}
