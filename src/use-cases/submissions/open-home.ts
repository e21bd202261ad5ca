import { mayAdminister } from '../../core/access/rules';
import { unusualOf } from '../../core/approval/unusual';
import { byDue } from '../../core/approval/due';
import { mayForm, peopleHere, tablesFor, type Catalogue } from '../../core/catalogue/catalogue';
import type {
  ApprovalsData,
  HomeData,
  SubmissionSummary,
  WaitingSummary,
} from '../../contract/answers-from-server';
import { questionsOf } from '../../core/form/design';
import { ok, type Result } from '../../core/kernel/result';
import type { Refusal } from '../../core/kernel/refusal';
import { liveForms } from '../../data/system/forms';
import {
  countWaiting,
  decidedBy,
  ownSubmissions,
  waitingFor,
  type SubmissionSummaryRow,
} from '../../data/system/submission-lists';
import { noticeSentence } from '../../core/wording/notice-sentence';
import type { Tx } from '../../data/connect';
import { changedLately } from '../../data/runtime/records/history';
import { recordCounts } from '../../data/runtime/records/record-counts';
import { countUnseen, newsOf } from '../../data/system/notices';
import { standsInFor } from '../../data/system/absences';
import { absencesWithNames } from '../people/absences';
import { withDays } from '../../core/approval/due';
import { countStuck } from '../../data/system/waiting-cases';
import { asPerson } from '../../data/transaction';
import { countOf } from '../tables/read-tables';
import { shutForms } from '../forms/opening';
import { dueFor } from './submission-data';
import { digestWords } from '../../core/approval/digest';
import { digested } from './digest';
import type { Context } from '../workspace/asking';
import { speak } from '../../core/wording/speak';

/** Of what waits, what happened and what others changed, Home shows so much. */
const MOST_AT_HOME = 4;
/** What others changed longer ago is no news. */
const NEWS_DAYS = 7;

/** What waits for a colleague, what became of what they sent, the tables they keep, and the forms they may fill. */
export async function openHome(context: Context): Promise<Result<HomeData, Refusal>> {
  const me = context.person.id;
  return asPerson({ person: me }, async (tx, catalogue) => {
    const mayFill = (await liveForms(tx, catalogue)).filter(({ formId }) =>
      mayForm(catalogue, me, 'fill', formId),
    );
    const shut = await shutForms(
      tx,
      catalogue,
      context,
      mayFill.map(({ formId }) => formId),
    );
    const mine = (await ownSubmissions(tx, me, 60)).map((row) => inHand(catalogue, context, row));
    const lastOf = (key: string): string | null => mine.find(({ formKey }) => formKey === key)?.at ?? null;
    const waiting = await waitingNow(tx, catalogue, context);
    return ok({
      forms: mayFill
        .filter(({ formId }) => !shut.has(formId))
        .map(({ formId, key, design }) => ({
          id: formId,
          key,
          title: design.title,
          area: design.area,
          steps: design.steps.length,
          last: lastOf(key),
        }))
        .sort((a, b) => (b.last ?? '').localeCompare(a.last ?? '') || a.title.localeCompare(b.title)),
      waiting: waiting.list.slice(0, MOST_AT_HOME),
      total: waiting.total,
      mine,
      tables: await tablesKept(tx, catalogue, context),
      happened: (await newsOf(tx, me, MOST_AT_HOME)).map((row) => ({
        id: row.id,
        submission: row.submissionId,
        sentence: noticeSentence(row),
        at: row.at.toISOString(),
      })),
      alone: mayAdminister(context.person) && peopleHere(catalogue).length === 1,
    });
  });
}

/** Tables somebody may change, without those whose records are rows of others, that others changed lately. */
async function tablesKept(
  tx: Tx,
  catalogue: Catalogue,
  { person, now }: Context,
): Promise<HomeData['tables']> {
  const kept = tablesFor(catalogue, person.id, 'change').filter(({ parent }) => parent === null);
  const since = new Date(now.getTime() - NEWS_DAYS * 86_400_000);
  const news = await changedLately(tx, { tables: kept.map(({ id }) => id), except: person.id, since });
  const shown = news.slice(0, MOST_AT_HOME).flatMap((one) => {
    const table = kept.find(({ id }) => id === one.table);
    return table === undefined ? [] : [{ ...one, table }];
  });
  const counts = await recordCounts(
    tx,
    shown.map(({ table }) => table),
  );
  return shown.map(({ table, changed, at }) => ({
    key: table.key,
    label: table.label,
    ...countOf(counts, table),
    changed,
    at,
  }));
}

/** Of what waits for somebody, so much is shown: nobody decides more in a day. */
const MOST_WAITING = 300;

/** Of what came since the list was looked at, so much is compared before it is shown; a job does the rest. */
const MOST_COMPARED = 10;

export async function openApprovals(context: Context): Promise<Result<ApprovalsData, Refusal>> {
  const first = await approvals(context);
  const unread = first.ok ? first.value.waiting.filter(({ unusual }) => unusual.includes('unread')) : [];
  if (unread.length === 0) return first;
  for (const { id } of unread.slice(0, MOST_COMPARED)) await digested(context, id);
  return approvals(context);
}

/** What somebody may decide, soonest due first, and how much that is. */
async function waitingNow(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
): Promise<{ list: WaitingSummary[]; total: number }> {
  const me = context.person.id;
  const waiting = await waitingFor(tx, MOST_WAITING);
  const list = waiting
    .map((row) => ({
      ...inHand(catalogue, context, row),
      at: row.since.toISOString(),
      place: row.step,
      standsInFor: row.asks === me ? null : (catalogue.people.get(row.asks)?.name ?? ''),
      version: row.version,
      unusual: unusualOf({
        answers: row.answers,
        sentBefore: row.sentBefore,
        changes: row.ofRecord !== null,
        said: row.lastWord !== null,
        digest: row.digest,
      }),
    }))
    .sort(byDue);
  return { list, total: waiting.length < MOST_WAITING ? waiting.length : await countWaiting(tx) };
}

function approvals(context: Context): Promise<Result<ApprovalsData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const nameOf = (id: string): string => catalogue.people.get(id)?.name ?? '';
    const me = context.person.id;
    const { list, total } = await waitingNow(tx, catalogue, context);
    return ok({
      total,
      waiting: list,
      decided: (await decidedBy(tx, me, 30)).map(summary),
      me,
      deputy: catalogue.people.get(me)?.deputy ?? null,
      away: await absencesWithNames(tx, catalogue, me),
      standsInFor: [...(await standsInFor(tx))].map(nameOf).sort((a, b) => a.localeCompare(b)),
      people: peopleHere(catalogue)
        .filter(({ id }) => id !== me)
        .map(({ id, name, place }) => ({ id, name, place })),
    });
  });
}

/** How many sheets wait to be decided, how many notices to be looked at, and for administrators how much waits for nobody. */
export async function howManyWait({
  person,
}: Context): Promise<Result<{ waiting: number; unseen: number; stuck: number }, Refusal>> {
  return asPerson({ person: person.id }, async (tx) =>
    ok({
      waiting: await countWaiting(tx),
      unseen: await countUnseen(tx, person.id),
      stuck: mayAdminister(person) ? await countStuck(tx) : 0,
    }),
  );
}

/** Something on its way, with what others said last (one's own word is no news) and when it is due. */
function inHand(
  catalogue: Catalogue,
  context: Context,
  row: Awaited<ReturnType<typeof ownSubmissions>>[number],
): SubmissionSummary {
  const { lastWord, begun, step, design } = row;
  return {
    ...summary(row),
    said:
      lastWord === null || lastWord.by === context.person.id
        ? null
        : { name: lastWord.name, word: lastWord.word },
    due:
      step === null || begun === null
        ? null
        : dueFor(catalogue, context, withDays(design.steps[step], row.days), new Date(begun)),
  };
}

function summary(row: SubmissionSummaryRow): SubmissionSummary {
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    formKey: row.formKey,
    title: row.title,
    changes: row.ofRecord !== null,
    gist: digestWords(row.digest?.told ?? []) || gist(row),
    sender: row.senderName,
    senderPlace: row.senderPlace,
    said: null,
    due: null,
    at: row.updatedAt.toISOString(),
    step: row.step === null ? null : (row.design.steps[row.step]?.label ?? null),
  };
}

/** A few words by which to tell one submission from another: its first short texts, or how many rows it has. */
function gist({ design, answers }: SubmissionSummaryRow): string {
  const words = questionsOf(design).flatMap((question): string[] => {
    const raw = answers.values[question.id];
    if (question.kind === 'text' && typeof raw === 'string' && raw.trim() !== '')
      return [[...raw.trim()].slice(0, 60).join('')];
    const rows = question.kind === 'rows' ? (answers.rows[question.id] ?? []).length : 0;
    return rows > 0 ? [speak`${rows} ${rows === 1 ? speak`row` : speak`rows`} in ${question.label}`] : [];
  });
  return words.slice(0, 2).join(' · ');
}
