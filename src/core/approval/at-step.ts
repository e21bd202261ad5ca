import type { PathState } from './path';

/** An event of a submission's trail, as far as the path is told from it. */
export interface PastEvent {
  readonly kind: string;
  readonly step: number | null;
  readonly byId: string;
}

/** Kinds of events that leave a submission at its step with the sheet it had. */
const STAYS = new Set(['approve', 'hand-over']);

/**
 * What the trail says of the step a submission waits at: who has approved it, or any step, since it was sent the last time, and how many events have moved nothing
 * since, so that whoever looked before them need not look again.
 */
export function atStep(
  events: readonly PastEvent[],
  step: number | null,
): { approved: PathState['approved']; approvedBefore: ReadonlySet<string>; stays: number } {
  const sent = events.findLastIndex(({ kind }) => kind === 'send');
  const since = events.slice(sent + 1).filter(({ kind }) => kind === 'approve');
  const here = events.slice(sent + 1).filter((event) => event.step === step && STAYS.has(event.kind));
  return {
    approved: here.filter(({ kind }) => kind === 'approve').map(({ byId }) => byId),
    approvedBefore: new Set(since.map(({ byId }) => byId)),
    stays: here.length,
  };
}
