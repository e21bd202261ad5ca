import type { ApprovalStep } from '../form/design';
import { roundOf } from './path';

/** An event of a submission's trail, as far as the path is told from it. */
export interface PastEvent {
  readonly kind: string;
  readonly step: number | null;
  /** Of one that was sent back to an earlier step, or moved to another: which. */
  readonly toStep?: number | null;
  readonly byId: string;
}

/** Kinds of events that leave a submission at its step with the sheet it had. */
const STAYS = new Set(['approve', 'hand-over', 'move', 'decline', 'lapse']);

/** Kinds of events that take a submission to another step (`toStep`), which is begun once more. */
export const beginsAnew: ReadonlySet<string> = new Set(['return', 'move']);

/** What the trail says of the steps a submission waits at. */
export interface AtSteps {
  /** Who has approved a step since it was sent, or sent back to it or to one before it, the last time. */
  readonly approved: (step: number) => readonly string[];
  /** The same of those who declined it, where it waits on all the same. */
  readonly against: (step: number) => readonly string[];
  /** Who has approved any step since. */
  readonly approvedBefore: ReadonlySet<string>;
  /** How many events have moved nothing since it came to these steps, so that whoever looked before them need not look again. */
  readonly stays: number;
}

/** `step` is one of those it waits at, of the steps of its release; null where it waits at none. */
export function atSteps(
  events: readonly PastEvent[],
  step: number | null,
  steps: readonly Pick<ApprovalStep, 'beside'>[],
): AtSteps {
  const sent = events.findLastIndex(({ kind }) => kind === 'send');
  const since = events.slice(sent + 1);
  const approvals = since.filter(({ kind }) => kind === 'approve');
  const { from, to } = step === null ? { from: 0, to: -1 } : roundOf(steps, step);
  const isHere = (at: number | null): boolean => at !== null && at >= from && at <= to;
  // What came before it was sent back to a step, or past it, is asked for once more there.
  const begun = (of: number): readonly PastEvent[] =>
    since.slice(
      since.findLastIndex(({ kind, toStep }) => beginsAnew.has(kind) && toStep != null && toStep <= of) + 1,
    );
  const saying = (word: string, of: number): readonly string[] =>
    begun(of).flatMap(({ kind, step: at, byId }) => (kind === word && at === of ? [byId] : []));
  return {
    approved: (of) => saying('approve', of),
    against: (of) => saying('decline', of),
    approvedBefore: new Set(approvals.map(({ byId }) => byId)),
    stays: begun(to).filter((event) => isHere(event.step) && STAYS.has(event.kind)).length,
  };
}
