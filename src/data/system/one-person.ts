import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Answers } from '../../core/form/answers';
import type { Tx } from '../connect';
import {
  formExample,
  formRelease,
  outsideMail,
  person,
  requestKey,
  storedFile,
  submission,
  submissionEvent,
} from './schema';

/** What is kept about one person beside records, whoever sees it; as the owner role. */

/** Submissions that became or changed these records. */
export async function submissionsOf(tx: Tx, records: readonly string[]): Promise<string[]> {
  if (records.length === 0) return [];
  const ids = sql`${sql.param([...records])}::uuid[]`;
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT id FROM slate.submission WHERE record_id = ANY (${ids}) OR of_record = ANY (${ids})
      UNION SELECT submission_id FROM slate.history WHERE record_id = ANY (${ids}) AND submission_id IS NOT NULL`,
  );
  return rows.map(({ id }) => id);
}

/** What was sent, or begun, and has become no record, where an answer to one of these questions holds all of the words. */
export async function unkeptWith(
  tx: Tx,
  words: readonly string[],
  questions: readonly string[],
  most: number,
): Promise<string[]> {
  const ids = sql`${sql.param([...questions])}::text[]`;
  const all = words.map((word) => sql`a.text LIKE slate.found_in(${word})`);
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT s.id FROM slate.submission s CROSS JOIN LATERAL (SELECT slate.words(array_agg(e.value)) AS text FROM (
        SELECT v.value FROM jsonb_each_text(s.answers->'values') AS v WHERE v.key = ANY (${ids}) AND v.value IS NOT NULL
        UNION ALL SELECT c.value FROM jsonb_path_query(s.answers, '$.rows.*[*].cells') AS cells, jsonb_each_text(cells) AS c WHERE c.key = ANY (${ids}) AND c.value IS NOT NULL) AS e) AS a
      WHERE s.record_id IS NULL AND s.of_record IS NULL AND s.state <> 'rehearsing' AND ${sql.join(all, sql` AND `)} ORDER BY s.id LIMIT ${most}`,
  );
  return rows.map(({ id }) => id);
}

export interface WholeSubmission {
  readonly id: string;
  readonly formId: string;
  readonly number: string | null;
  readonly state: string;
  readonly sender: string;
  readonly sentAt: Date | null;
  readonly design: (typeof formRelease.$inferSelect)['design'];
  readonly answers: Answers;
  /** Whether it has become no record, and changes none. */
  readonly isUnkept: boolean;
}

export const wholeSubmissions = (tx: Tx, ids: readonly string[]): Promise<WholeSubmission[]> =>
  ids.length === 0
    ? Promise.resolve([])
    : tx
        .select({
          id: submission.id,
          formId: submission.formId,
          number: submission.number,
          state: submission.state,
          sender: person.name,
          sentAt: submission.sentAt,
          design: formRelease.design,
          answers: submission.answers,
          isUnkept: sql<boolean>`${submission.recordId} IS NULL AND ${submission.ofRecord} IS NULL`,
        })
        .from(submission)
        .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
        .innerJoin(person, eq(person.id, submission.senderId))
        .where(inArray(submission.id, [...ids]))
        .orderBy(asc(submission.id));

/** Writes the answers anew wherever a submission holds them: as they are, as they were sent, and along its path. */
export async function rewriteAnswers(
  tx: Tx,
  ids: readonly string[],
  anew: (answers: Answers) => Answers,
): Promise<void> {
  if (ids.length === 0) return;
  const these = inArray(submission.id, [...ids]);
  const orNull = (answers: Answers | null): Answers | null => (answers === null ? null : anew(answers));
  for (const one of await tx.select().from(submission).where(these).orderBy(asc(submission.id)).for('update'))
    await tx
      .update(submission)
      .set({
        answers: anew(one.answers),
        sentAnswers: orNull(one.sentAnswers),
        earlierAnswers: orNull(one.earlierAnswers),
        base: orNull(one.base),
        digest: null,
        // Whoever has it open is told that it is another now, and does not bring it back by saving.
        version: one.version + 1,
      })
      .where(eq(submission.id, one.id));
  const events = await tx
    .select({
      id: submissionEvent.submissionId,
      position: submissionEvent.position,
      answers: submissionEvent.answers,
    })
    .from(submissionEvent)
    .where(inArray(submissionEvent.submissionId, [...ids]));
  for (const { id, position, answers } of events)
    if (answers !== null)
      await tx
        .update(submissionEvent)
        .set({ answers: anew(answers) })
        .where(and(eq(submissionEvent.submissionId, id), eq(submissionEvent.position, position)));
  // What was to be mailed to whoever sent it from outside.
  await tx.delete(outsideMail).where(inArray(outsideMail.submissionId, [...ids]));
}

/** The same in the examples that are kept with forms, which may have been taken from what was sent. */
export async function rewriteExamples(
  tx: Tx,
  forms: readonly string[],
  anew: (answers: Answers) => Answers,
): Promise<void> {
  if (forms.length === 0) return;
  for (const { id, answers } of await tx
    .select({ id: formExample.id, answers: formExample.answers })
    .from(formExample)
    .where(inArray(formExample.formId, [...forms])))
    await tx
      .update(formExample)
      .set({ answers: anew(answers) })
      .where(eq(formExample.id, id));
}

/** The same in what was answered to requests that may be sent again, where it tells of one of these records or submissions. */
export async function rewriteAnswered(
  tx: Tx,
  ids: readonly string[],
  anew: (answer: unknown) => unknown,
): Promise<void> {
  if (ids.length === 0) return;
  const anyOf = sql`${requestKey.answer}::text LIKE ANY (${sql.param(ids.map((id) => `%${id}%`))}::text[])`;
  for (const { personId, key, answer } of await tx.select().from(requestKey).where(anyOf))
    await tx
      .update(requestKey)
      .set({ answer: anew(answer) })
      .where(and(eq(requestKey.personId, personId), eq(requestKey.key, key)));
}

export interface FileOf {
  readonly name: string;
  readonly type: string;
  readonly size: number;
  readonly recordId: string | null;
  readonly submissionId: string | null;
}

export const filesOf = (
  tx: Tx,
  records: readonly string[],
  submissions: readonly string[],
): Promise<FileOf[]> =>
  tx
    .select({
      name: storedFile.name,
      type: storedFile.type,
      size: storedFile.size,
      recordId: storedFile.recordId,
      submissionId: storedFile.submissionId,
    })
    .from(storedFile)
    .where(
      sql`${storedFile.recordId} = ANY (${sql.param([...records])}::uuid[]) OR ${storedFile.submissionId} = ANY (${sql.param([...submissions])}::uuid[])`,
    )
    .orderBy(asc(storedFile.name));

export async function removeFiles(tx: Tx, ids: readonly string[]): Promise<void> {
  if (ids.length > 0) await tx.delete(storedFile).where(inArray(storedFile.id, [...ids]));
}

/** A line of the trail. */
export async function notePersonal(
  tx: Tx,
  subject: 'personal-search' | 'personal-data',
  verb: 'made' | 'removed',
  of: string,
): Promise<void> {
  await tx.execute(sql`SELECT slate.note_personal(${subject}, ${verb}, ${of})`);
}
