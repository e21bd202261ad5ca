import { fail, ok, type Result } from '../kernel/result';
import { forbidden, invalid, stale, type Refusal } from '../kernel/refusal';
import { issue, type Issue } from '../kernel/issue';
import type { ApprovalStep } from '../form/design';

/**
 * The path of a submission, as a reducer over events.
 *
 * draft -send-> waiting at step 0 -approve-> waiting at the next step … -approve-> kept
 * waiting -approve-> waiting at the same step, for the others, where one is not enough
 * waiting -hand over-> waiting at the same step, for somebody else in place of whoever gives it away
 * waiting -send back-> sent-back -send-> waiting at step 0 again
 * waiting -decline-> declined (the end); waiting -withdraw-> withdrawn (the end)
 * A form without steps is kept as soon as it is sent, and so is one none of whose steps is asked: that is told when it is sent, of what is sent. A step whose only people are the sender cannot be asked:
 * nobody approves their own. So every step is looked at when it is sent, and those to come again at each step, for people come and go.
 */
export interface PathState {
  readonly state: SubmissionState;
  /** Index into the steps while waiting. */
  readonly step: number | null;
  /** Those who may decide now; whoever has approved is asked no more. */
  readonly asked: readonly string[];
  /** Who has approved the step since it was sent. */
  readonly approved: readonly string[];
}

export const draftState: PathState = { state: 'draft', step: null, asked: [], approved: [] };

export const submissionStates = ['draft', 'waiting', 'sent-back', 'kept', 'declined', 'withdrawn'] as const;
export type SubmissionState = (typeof submissionStates)[number];

export type PathEvent =
  | { readonly t: 'send' }
  | { readonly t: 'approve' | 'send-back' | 'decline'; readonly word: string }
  | { readonly t: 'hand-over'; readonly to: string; readonly word: string }
  | { readonly t: 'withdraw' };

/** What the saving transaction carries out: ask the people of a step, or make the rows. */
export type PathEffect =
  | { readonly t: 'ask'; readonly step: number; readonly people: readonly string[] }
  | { readonly t: 'keep-rows' };

export interface Setting {
  readonly steps: readonly ApprovalStep[];
  readonly sender: string;
  /** Steps that are not asked about what was sent, by id. */
  readonly skipped: ReadonlySet<string>;
  /** Who has approved any step since it was sent the last time. */
  readonly approvedBefore?: ReadonlySet<string>;
  /** For whom whoever acts stands in: those who are away. */
  readonly standsInFor?: ReadonlySet<string>;
}

export function advance(
  now: PathState,
  event: PathEvent,
  by: string,
  setting: Setting,
): Result<{ state: PathState; effects: PathEffect[] }, Refusal> {
  const { sender } = setting;
  switch (event.t) {
    case 'send':
      if (by !== sender) return fail(forbidden('own-only'));
      if (now.state !== 'draft' && now.state !== 'sent-back')
        return fail(stale('already-sent', { state: now.state }));
      return enter(0, setting, by);
    case 'withdraw':
      if (by !== sender) return fail(forbidden('own-only'));
      if (now.state !== 'waiting' && now.state !== 'sent-back')
        return fail(stale('not-waiting', { state: now.state }));
      return ok({ state: { ...ended, state: 'withdrawn' }, effects: [] });
    default:
      return decide(now, event, by, setting);
  }
}

function decide(
  now: PathState,
  event: Exclude<PathEvent, { t: 'send' | 'withdraw' }>,
  by: string,
  setting: Setting,
): ReturnType<typeof advance> {
  if (by === setting.sender) return fail(forbidden('own-submission'));
  if (now.state !== 'waiting' || now.step === null)
    return fail(stale('already-decided', { state: now.state }));
  const seat = seatOf(now, by, setting);
  if (seat === null) return fail(forbidden('not-asked'));
  const asked = now.asked.filter((person) => person !== seat);
  if (event.t === 'hand-over') return handedOver({ ...now, asked }, event.to, setting);
  if (event.t === 'approve') {
    const approved = [...now.approved, by];
    const step = setting.steps[now.step];
    // Where people have left meanwhile, it does not wait for ever.
    if (
      asked.length > 0 &&
      step !== undefined &&
      approved.length < needed(step, approved.length + asked.length)
    )
      return ok({ state: { ...now, asked, approved }, effects: [] });
    return enter(now.step + 1, setting, by);
  }
  if (event.word.trim() === '') return fail(invalid(issue('word-needed', ['word'], { decision: event.t })));
  return ok({
    state: { ...ended, state: event.t === 'decline' ? 'declined' : 'sent-back' },
    effects: [],
  });
}

/**
 * As whom somebody may decide now: as themselves where they are asked, else as somebody who is away and whom they stand in for. Each has one word to a step,
 * so whoever approved it already does not approve it for somebody else as well.
 */
export function seatOf(
  { state, asked, approved }: PathState,
  by: string,
  { sender, standsInFor }: Pick<Setting, 'sender' | 'standsInFor'>,
): string | null {
  if (state !== 'waiting' || by === sender) return null;
  if (asked.includes(by)) return by;
  if (approved.includes(by)) return null;
  return asked.find((person) => standsInFor?.has(person)) ?? null;
}

function handedOver(now: PathState, to: string, { sender }: Setting): ReturnType<typeof advance> {
  if (to === sender) return fail(invalid(issue('hand-over-to-sender', ['to'])));
  if (now.asked.includes(to) || now.approved.includes(to))
    return fail(invalid(issue('hand-over-to-asked', ['to'])));
  return ok({ state: { ...now, asked: [...now.asked, to] }, effects: [] });
}

function enter(from: number, setting: Setting, by: string): ReturnType<typeof advance> {
  const { steps, sender, skipped, approvedBefore = [] } = setting;
  const approved = new Set(by === sender ? [] : [...approvedBefore, by]);
  const index = steps.findIndex(
    (one, at) => at >= from && !skipped.has(one.id) && !isSettled(one, sender, approved),
  );
  const step = steps[index];
  if (step === undefined) return ok({ state: { ...ended, state: 'kept' }, effects: [{ t: 'keep-rows' }] });
  const without = steps
    .slice(index)
    .flatMap((one) => (skipped.has(one.id) ? [] : tooFew(one, sender, by === sender)));
  if (without.length > 0) return fail(invalid(...without));
  const people = askedFor(step, sender);
  return ok({
    state: { state: 'waiting', step: index, asked: people, approved: [] },
    effects: [{ t: 'ask', step: index, people }],
  });
}

/** Whether all it would ask have approved before, and it is not to ask them again. */
function isSettled(step: ApprovalStep, sender: string, approved: ReadonlySet<string>): boolean {
  const asked = askedFor(step, sender);
  return step.unlessApproved === true && asked.length > 0 && asked.every((one) => approved.has(one));
}

const ended = { step: null, asked: [], approved: [] } as const;

/** How many must approve of so many who can be asked. */
export const needed = ({ decide }: ApprovalStep, asked: number): number =>
  decide === undefined ? 1 : decide === 'all' ? asked : decide;

function tooFew(step: ApprovalStep, sender: string, own: boolean): Issue[] {
  const { id, label } = step;
  const asked = askedFor(step, sender);
  if (asked.length === 0 && step.named !== undefined)
    return [issue('nobody-named', ['steps', id], { step: label })];
  if (asked.length === 0) return [issue('nobody-to-ask', ['steps', id], { step: label, own })];
  // Whoever is asked because nobody else could be decides alone.
  if (!step.people.some((one) => asked.includes(one))) return [];
  const wanted = needed(step, asked.length);
  const found = asked.length;
  return found < wanted ? [issue('too-few-to-ask', ['steps', id], { step: label, own, found, wanted })] : [];
}

/** Whom a step asks about a submission of this sender, each once: where that is nobody, whoever it names for that. */
export function askedFor({ people, fallback }: ApprovalStep, sender: string): readonly string[] {
  const asked = [...new Set(people)].filter((person) => person !== sender);
  return asked.length > 0 || fallback === undefined || fallback === sender ? asked : [fallback];
}
