import type { AskedPerson, PersonName, SubmissionData } from '../../contract/sheet-from-server';
import { atSteps, beginsAnew } from '../../core/approval/at-step';
import { correctsOf } from '../../core/approval/corrected';
import { dueOf, type Due } from '../../core/approval/due';
import { type ApprovalStep, type FormDesign } from '../../core/form/design';
import { workingTime } from '../../core/workspace';
import { askedFor, openSteps, roundOf, seatOf, stepsBefore } from '../../core/approval/path';
import { stepsAsTold, stepsFor } from '../../core/approval/whom';
import { peopleHere, type Catalogue } from '../../core/catalogue/catalogue';
import type { Tx } from '../../data/connect';
import { standsInFor } from '../../data/system/absences';
import {
  askedOf,
  readEvents,
  standing,
  type EventRow,
  type SubmissionRow,
} from '../../data/system/submissions';
import { absencesWithNames } from '../people/absences';
import { localTime, type Context } from '../workspace/asking';
import { whyWords } from './why-asked';
import { speak } from '../../core/wording/speak';

/** How a submission stands, what happened to it, and what whoever looks may do with it. */
export async function submissionData(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  row: SubmissionRow,
  design: FormDesign,
): Promise<SubmissionData> {
  const steps = stepsAsTold(design, row);
  const me = context.person.id;
  const named = namesIn(catalogue);
  const everAsked = await askedOf(tx, row.id);
  const events = await readEvents(tx, row.id);
  const path = await standing(tx, row, atSteps(events, row.step, steps));
  const open = openSteps(path);
  const away = open.length === 0 ? [] : await absencesWithNames(tx, catalogue);
  const seat = seatOf(path, me, { sender: row.senderId, standsInFor: await standsInFor(tx) });
  const nameOrNull = (id: string | null): string | null => (id === null ? null : named(id).name);
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    version: row.version,
    sender: named(row.senderId),
    waits: open.map(({ step, asked, approved }) => ({
      step,
      asked: asked.map((id): AskedPerson => {
        const absence = away.find((one) => one.person === id && one.now);
        return {
          ...named(id),
          why: whyWords(design, steps[step], id, row, catalogue),
          away: absence === undefined ? null : { until: absence.until, standIn: absence.standInName },
        };
      }),
      approved: approved.length,
      due: dueFor(catalogue, context, steps[step], begunAt(everAsked, events, row, step)),
    })),
    ahead: aheadOf(design, row, catalogue),
    skipped: row.skipped,
    decidesAt: seat?.at.step ?? null,
    returnTo: seat === null ? [] : stepsBefore(steps, seat.at.step, new Set(row.skipped)),
    decidesFor: seat === null || seat.as === me ? null : named(seat.as).name,
    mayRemark:
      row.number !== null &&
      (row.senderId === me || seat !== null || everAsked.some((one) => one.person === me)),
    handOverTo:
      seat === null
        ? []
        : peopleHere(catalogue)
            .map(({ id }) => named(id))
            .filter(({ id }) => ![row.senderId, ...seat.at.asked, ...seat.at.approved].includes(id)),
    updatedAt: row.updatedAt.toISOString(),
    sentAt: row.sentAt?.toISOString() ?? null,
    recordId: row.recordId,
    changes: row.ofRecord !== null,
    ...(wasCorrected(events) && row.sentAnswers !== null && row.ofRecord === null
      ? { earlierAnswers: row.sentAnswers, corrected: true }
      : { earlierAnswers: row.earlierAnswers, corrected: false }),
    corrects: seat === null ? [] : correctsOf(design, design.steps[seat.at.step] ?? {}),
    onPath: onPath(catalogue, row.senderId, everAsked, events).filter(({ id }) => id !== me),
    events: events.map(({ kind, step, toStep, byName, through, forId, toId, word, place, at }) => ({
      kind,
      step,
      toStep,
      by: byName,
      through,
      for: nameOrNull(forId),
      to: nameOrNull(toId),
      word,
      place,
      at: at.toISOString(),
    })),
  };
}

/** What comes after the steps it waits at; nothing where it waits at none. */
function aheadOf(design: FormDesign, row: SubmissionRow, catalogue: Catalogue): SubmissionData['ahead'] {
  const { state, step, senderId, skipped } = row;
  if (state !== 'waiting' || step === null) return [];
  const { to } = roundOf(design.steps, step);
  return stepsFor(design, senderId, catalogue, row).flatMap((one, at) =>
    at <= to || skipped.includes(one.id)
      ? []
      : [{ step: at, asked: askedFor(one, senderId).map((id) => catalogue.people.get(id)?.name ?? '') }],
  );
}

/** Those who sent it, are or were asked, or did something with it, and are still here. */
export function onPath(
  catalogue: Catalogue,
  sender: string,
  asked: readonly { readonly person: string }[],
  events: readonly { readonly byId: string }[],
): PersonName[] {
  const ids = new Set([sender, ...asked.map(({ person }) => person), ...events.map(({ byId }) => byId)]);
  return peopleHere(catalogue)
    .filter(({ id }) => ids.has(id))
    .map(({ id, name, place }) => ({ id, name, place }));
}

/** Since it was sent the last time. */
const wasCorrected = (events: readonly EventRow[]): boolean =>
  events
    .slice(events.findLastIndex(({ kind }) => kind === 'send') + 1)
    .some(({ kind }) => kind === 'correct');

/** When a step it waits at began: those who were asked later were handed it. */
function begunAt(
  asked: Awaited<ReturnType<typeof askedOf>>,
  events: readonly EventRow[],
  { sentAt }: SubmissionRow,
  step: number,
): Date | null {
  const back = events.findLast(
    ({ kind, toStep }) => beginsAnew.has(kind) && toStep !== null && toStep <= step,
  );
  const from = back?.at ?? sentAt;
  return asked.find((one) => one.step === step && from !== null && one.since >= from)?.since ?? null;
}

/** When a step that began then is due, by the workspace's calendar. */
export function dueFor(
  { workspace }: Pick<Catalogue, 'workspace'>,
  { now }: Pick<Context, 'now'>,
  step: ApprovalStep | undefined,
  begun: Date | null,
): Due | null {
  if (step === undefined || begun === null) return null;
  return dueOf(step, localTime(workspace, begun), localTime(workspace, now), workingTime(workspace));
}

const namesIn =
  ({ people }: Pick<Catalogue, 'people'>) =>
  (id: string): PersonName => {
    const { name, place } = people.get(id) ?? { name: speak`Somebody no longer here`, place: '' };
    return { id, name, place };
  };
