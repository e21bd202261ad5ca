import { atSteps } from '../../core/approval/at-step';
import { advance, type PathEvent } from '../../core/approval/path';
import { stepsFor } from '../../core/approval/whom';
import { fail, ok, type Result } from '../../core/kernel/result';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, stale, type Refusal, type StaleOf } from '../../core/kernel/refusal';
import { standsInFor } from '../../data/system/absences';
import { readRelease } from '../../data/system/forms';
import {
  handSubmissionOver,
  moveSubmission,
  readEvents,
  readSubmission,
  standing,
  type EventRow,
} from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { carryOut } from './carry-out';
import { toKeep } from './sheet-to-keep';
import { once } from '../workspace/once';

export interface Decided {
  readonly state: string;
  readonly version: number;
}

interface AtStep {
  /** The step that was looked at; left out, the first that is to be decided. */
  readonly step?: number | null | undefined;
}

export interface Decision extends AtStep {
  readonly key: string;
  readonly version: number;
  readonly decision: 'approve' | 'send-back' | 'decline';
  readonly word: string;
}

/** Decides a step. The row lock lets one of two approvers through; the other is told who decided, and what. */
export function decideSubmission(
  context: Context,
  id: string,
  input: Decision,
): Promise<Result<Decided, Refusal>> {
  return move(context, id, input, { t: input.decision, word: input.word, at: input.step ?? null });
}

/** Gives what one is asked to somebody else, who is asked in one's place. */
export function handOver(
  context: Context,
  id: string,
  { to, word, step = null, ...input }: { key: string; version: number; to: string; word: string } & AtStep,
): Promise<Result<Decided, Refusal>> {
  return move(context, id, input, { t: 'hand-over', to, word, at: step });
}

/** Sends it back to an earlier step, which is asked once more; those after it follow again. */
export function returnToStep(
  context: Context,
  id: string,
  { to, word, step = null, ...input }: { key: string; version: number; to: number; word: string } & AtStep,
): Promise<Result<Decided, Refusal>> {
  return move(context, id, input, { t: 'return', to, word, at: step });
}

/** Takes back what was sent, while nobody has decided it. */
export function withdrawSubmission(
  context: Context,
  id: string,
  input: { key: string; version: number },
): Promise<Result<Decided, Refusal>> {
  return move(context, id, input, { t: 'withdraw' });
}

function move(
  context: Context,
  id: string,
  input: { key: string; version: number },
  event: PathEvent,
): Promise<Result<Decided, Refusal>> {
  return asPerson({ person: context.person.id }, (tx, catalogue) =>
    once(tx, context, input.key, { operation: event.t, of: id, said: [input.version, event] }, async () => {
      const row = await readSubmission(tx, id, true);
      const release = row === null ? null : await readRelease(tx, catalogue, row.releaseId);
      if (row === null || release === null || row.number === null) return fail(notFound('submission'));
      const events = await readEvents(tx, id);
      const said = atSteps(events, row.step, release.design.steps);
      const { approvedBefore, stays } = said;
      const now = await standing(tx, row, said);
      const next = advance(now, event, context.person.id, {
        steps: stepsFor(release.design, row.senderId, catalogue, row),
        sender: row.senderId,
        skipped: new Set(row.skipped),
        approvedBefore,
        standsInFor: await standsInFor(tx),
      });
      if (!next.ok) {
        // Somebody who was asked and is not any more was not quick enough; that is no matter of rights.
        // Whoever handed it over is not asked, and knows why.
        const late =
          next.error.kind === 'forbidden' &&
          next.error.why === 'not-asked' &&
          row.version !== input.version &&
          lastMove(events)?.kind !== 'send';
        const refusal = late ? stale('already-decided', { state: row.state }) : next.error;
        return fail(
          refusal.kind === 'stale' && refusal.why === 'already-decided'
            ? toldBy(events, refusal.facts)
            : refusal,
        );
      }
      // Decided on a sheet that has changed since it was looked at: look again first. Others who approved the
      // same step or one beside it, or handed it over, changed nothing of it.
      const since = row.version - input.version;
      if (since < 0 || since > stays) return fail(toldBy(events, { state: row.state }));
      const { state, effects } = next.value;
      const version = row.version + 1;
      if (event.t === 'hand-over') {
        if (catalogue.people.get(event.to)?.ended !== false)
          return fail(invalid(issue('not-a-colleague', ['to'])));
        await handSubmissionOver(tx, id, { to: event.to, word: event.word.trim(), at: context.now });
        return ok({ state: state.state, version });
      }
      await moveSubmission(tx, id, {
        event: event.t,
        state,
        word: 'word' in event ? event.word.trim() : '',
        sent: null,
        at: context.now,
      });
      const done = await carryOut(
        tx,
        catalogue,
        context,
        { ...toKeep(row, release), number: row.number },
        effects,
      );
      return done.ok ? ok({ state: state.state, version }) : done;
    }),
  );
}

/** Events that leave it where it is. */
const MOVES_NOTHING = new Set(['keep', 'remark', 'hand-over']);

const lastMove = (events: readonly EventRow[]): EventRow | undefined =>
  events.findLast(({ kind }) => !MOVES_NOTHING.has(kind));

/** The refusal with the name of who was first. */
function toldBy(events: readonly EventRow[], facts: StaleOf<'already-decided'>['facts']): Refusal {
  const last = lastMove(events);
  return stale('already-decided', { ...facts, by: last?.byName ?? null, decision: last?.kind ?? null });
}
