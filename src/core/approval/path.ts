import { fail, ok, type Result } from '../kernel/result';
import { forbidden, invalid, stale, type Refusal } from '../kernel/refusal';
import { issue, type Issue } from '../kernel/issue';
import { GO_ON, type ApprovalStep } from '../form/design';
import type { StepNow } from './whom';

/**
 * The path of a submission, as a reducer over events.
 *
 * draft -send-> waiting at step 0 -approve-> waiting at the next step … -approve-> kept
 * waiting -approve-> waiting at the same step, for the others, where one is not enough
 * waiting -approve-> waiting at the steps beside it, which are asked at the same time, until each of them is done
 * waiting -hand over-> waiting at the same step, for somebody else in place of whoever gives it away
 * waiting -send back-> sent-back -send-> waiting at step 0 again
 * waiting -correct-> waiting as before, with other answers
 * waiting -decline-> waiting for the others, where that counts as one against and enough are left
 * waiting -return-> waiting at an earlier step alone, and goes on from there
 * waiting -move-> waiting for whom an administrator says, at the same step, or at another one alone
 * waiting -lapse-> waiting at the next step … or kept, without those who are late, where the step says so
 * waiting -decline-> declined (the end); waiting -withdraw-> withdrawn (the end)
 * A form without steps is kept as soon as it is sent, and so is one none of whose steps is asked: that is
 * told when it is sent, of what is sent. A step whose only people are the sender cannot be asked: nobody
 * approves their own. So every step is looked at when it is sent, and those to come again at each step, for
 * people come and go.
 */
export interface PathState {
  readonly state: SubmissionState;
  /** Index into the steps while waiting: the first of those it waits at. */
  readonly step: number | null;
  /** Those who may decide it now; whoever has approved is asked no more. */
  readonly asked: readonly string[];
  /** Who has approved it since it was sent. */
  readonly approved: readonly string[];
  /** Who has declined it, where that counts as one against. Left out, nobody. */
  readonly against?: readonly string[];
  /** The others it waits at, in order. */
  readonly beside: readonly OpenStep[];
}

/** A step that something waits at. */
export interface OpenStep {
  readonly step: number;
  readonly asked: readonly string[];
  readonly approved: readonly string[];
  /** Who has declined it, where that counts as one against. Left out, nobody. */
  readonly against?: readonly string[];
}

export const draftState: PathState = { state: 'draft', step: null, asked: [], approved: [], beside: [] };

/** All that a submission waits at. */
export const openSteps = ({
  state,
  step,
  asked,
  approved,
  against,
  beside,
}: PathState): readonly OpenStep[] =>
  state !== 'waiting' || step === null
    ? []
    : [{ step, asked, approved, ...(against !== undefined && { against }) }, ...beside];

/** The state of what waits at these steps, of which there is at least one. */
export function waitingAt(open: readonly OpenStep[]): PathState {
  const [first, ...beside] = [...open].sort((a, b) => a.step - b.step);
  if (first === undefined) throw new Error('it waits at no step');
  return { state: 'waiting', ...first, beside };
}

type BesideOnly = readonly Pick<ApprovalStep, 'beside'>[];

/** The first and the last of the steps that are asked at the same time as one. */
export function roundOf(steps: BesideOnly, step: number): { from: number; to: number } {
  let [from, to] = [step, step];
  while (from > 0 && steps[from]?.beside === true) from--;
  while (steps[to + 1]?.beside === true) to++;
  return { from, to };
}

/** The steps in the order they are asked: those of the same time together. */
export function roundsOf<S extends Pick<ApprovalStep, 'beside'>>(steps: readonly S[]): S[][] {
  const found: S[][] = [];
  for (let at = 0; at < steps.length; at = roundOf(steps, at).to + 1)
    found.push(steps.slice(at, roundOf(steps, at).to + 1));
  return found;
}

export const submissionStates = ['draft', 'waiting', 'sent-back', 'kept', 'declined', 'withdrawn'] as const;
export type SubmissionState = (typeof submissionStates)[number];

export type PathEvent =
  | { readonly t: 'send' }
  /** `at`: the step that whoever decides looked at; left out, the first they may decide. */
  | { readonly t: 'approve' | 'send-back' | 'decline'; readonly word: string; readonly at?: number | null }
  /** `to`: an earlier step, which is asked once more. */
  | { readonly t: 'return'; readonly to: number; readonly word: string; readonly at?: number | null }
  | { readonly t: 'hand-over'; readonly to: string; readonly word: string; readonly at?: number | null }
  /** Answers are corrected by whoever decides a step; it waits on. */
  | { readonly t: 'correct'; readonly word: string; readonly at?: number | null }
  /** An administrator has somebody decide a step it waits at, or another step instead. Who may is not told here. */
  | {
      readonly t: 'move';
      readonly from: number;
      readonly to: number;
      readonly person: string;
      readonly word: string;
    }
  /**
   * A step is late, and is gone on without. That it is, and that the step says so, is not told here; it is
   * done in the name of the sender.
   */
  | { readonly t: 'lapse'; readonly from: number }
  | { readonly t: 'withdraw' };

/** What the saving transaction carries out: ask the people of a step, or make the rows. */
export type PathEffect =
  | { readonly t: 'ask'; readonly step: number; readonly people: readonly string[] }
  | { readonly t: 'keep-rows' };

export interface Setting {
  readonly steps: readonly StepNow[];
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
    case 'move':
      return moved(now, event, by, setting);
    case 'lapse':
      return lapsed(now, event.from, setting);
    default:
      return decide(now, event, by, setting);
  }
}

function moved(
  now: PathState,
  { from, to, person, word }: Extract<PathEvent, { t: 'move' }>,
  by: string,
  { sender, steps }: Setting,
): ReturnType<typeof advance> {
  const here = openSteps(now).find(({ step }) => step === from);
  if (here === undefined) return fail(stale('already-decided', { state: now.state }));
  if (word.trim() === '') return fail(invalid(issue('word-needed', ['word'], { decision: 'move' })));
  if (person === sender) return fail(invalid(issue('hand-over-to-sender', ['person'])));
  if (person === by) return fail(invalid(issue('move-to-oneself', ['person'])));
  if (steps[to] === undefined) return fail(invalid(issue('move-to-no-step', ['to'])));
  if (to !== from)
    return ok({
      state: waitingAt([{ step: to, asked: [person], approved: [] }]),
      effects: [{ t: 'ask', step: to, people: [person] }],
    });
  const isAskedAlone = here.asked.length === 1 && here.asked[0] === person;
  if (isAskedAlone || here.approved.includes(person) || here.against?.includes(person) === true)
    return fail(invalid(issue('hand-over-to-asked', ['person'])));
  const others = openSteps(now).filter(({ step }) => step !== from);
  return ok({
    state: waitingAt([{ ...here, asked: [person] }, ...others]),
    effects: [{ t: 'ask', step: from, people: [person] }],
  });
}

function lapsed(now: PathState, from: number, setting: Setting): ReturnType<typeof advance> {
  const open = openSteps(now);
  const others = open.filter(({ step }) => step !== from);
  if (others.length === open.length || setting.steps[from]?.late !== GO_ON)
    return fail(stale('already-decided', { state: now.state }));
  return others.length > 0
    ? ok({ state: waitingAt(others), effects: [] })
    : enter(roundOf(setting.steps, from).to + 1, setting, null);
}

function decide(
  now: PathState,
  event: Exclude<PathEvent, { t: 'send' | 'withdraw' | 'move' | 'lapse' }>,
  by: string,
  setting: Setting,
): ReturnType<typeof advance> {
  if (by === setting.sender) return fail(forbidden('own-submission'));
  if (now.state !== 'waiting' || now.step === null)
    return fail(stale('already-decided', { state: now.state }));
  const seat = seatOf(now, by, setting);
  if (seat === null) return fail(forbidden('not-asked'));
  // Somebody else has decided the step they looked at, and now they are asked about another one.
  if (event.at != null && event.at !== seat.at.step)
    return fail(stale('already-decided', { state: now.state }));
  const others = openSteps(now).filter(({ step }) => step !== seat.at.step);
  const here = { ...seat.at, asked: seat.at.asked.filter((person) => person !== seat.as) };
  if (event.t === 'correct')
    return (setting.steps[here.step]?.corrects ?? []).length === 0
      ? fail(invalid(issue('corrects-nothing', [])))
      : ok({ state: now, effects: [] });
  if (event.t === 'hand-over') return handedOver(here, others, event.to, setting);
  if (event.t === 'approve') return approvedBy(by, here, others, setting);
  if (event.word.trim() === '') return fail(invalid(issue('word-needed', ['word'], { decision: event.t })));
  if (event.t === 'return') return returned(here, event.to, setting);
  if (event.t === 'decline' && isOnlyAgainst(here, setting))
    return ok({
      state: waitingAt([{ ...here, against: [...(here.against ?? []), by] }, ...others]),
      effects: [],
    });
  return ok({
    state: { ...ended, state: event.t === 'decline' ? 'declined' : 'sent-back' },
    effects: [],
  });
}

/** Whether one more who declines leaves enough who can still approve. */
function isOnlyAgainst({ step, asked, approved }: OpenStep, { steps }: Setting): boolean {
  const of = steps[step];
  if (of?.declines !== 'against' || of.decide === 'all') return false;
  return asked.length > 0 && asked.length + approved.length >= needed(of, asked.length);
}

function approvedBy(
  by: string,
  here: OpenStep,
  others: readonly OpenStep[],
  setting: Setting,
): ReturnType<typeof advance> {
  const now = { ...here, approved: [...here.approved, by] };
  const step = setting.steps[now.step];
  const [left, given] = [now.asked.length, now.approved.length];
  // Where people have left meanwhile, it does not wait for ever.
  if (left > 0 && step !== undefined && given < needed(step, given + left))
    return ok({ state: waitingAt([now, ...others]), effects: [] });
  if (others.length > 0) return ok({ state: waitingAt(others), effects: [] });
  return enter(roundOf(setting.steps, now.step).to + 1, setting, by);
}

/** As whom somebody may decide, and which step. */
export interface Seat {
  readonly as: string;
  readonly at: OpenStep;
}

/**
 * As whom somebody may decide now: as themselves where they are asked, else as somebody who is away and whom
 * they stand in for; of several steps, the first. Each has one word to a step, so whoever approved it already
 * does not approve it for somebody else as well.
 */
export function seatOf(
  now: PathState,
  by: string,
  { sender, standsInFor }: Pick<Setting, 'sender' | 'standsInFor'>,
): Seat | null {
  if (by === sender) return null;
  const open = openSteps(now);
  const own = open.find(({ asked }) => asked.includes(by));
  if (own !== undefined) return { as: by, at: own };
  for (const at of open) {
    const hasSaid = at.approved.includes(by) || at.against?.includes(by) === true;
    const as = hasSaid ? undefined : at.asked.find((person) => standsInFor?.has(person));
    if (as !== undefined) return { as, at };
  }
  return null;
}

/** The steps before one, which it may be sent back to: those that are asked about it. */
export const stepsBefore = (
  steps: readonly Pick<ApprovalStep, 'beside' | 'id'>[],
  step: number,
  skipped: ReadonlySet<string>,
): number[] =>
  steps.flatMap(({ id }, at) => (at < roundOf(steps, step).from && !skipped.has(id) ? [at] : []));

function returned(
  here: OpenStep,
  to: number,
  { steps, sender, skipped }: Setting,
): ReturnType<typeof advance> {
  const step = steps[to];
  if (step === undefined || !stepsBefore(steps, here.step, skipped).includes(to))
    return fail(invalid(issue('return-to-earlier', ['to'])));
  const without = tooFew(step, sender, false);
  if (without.length > 0) return fail(invalid(...without));
  const people = askedFor(step, sender);
  return ok({
    state: waitingAt([{ step: to, asked: people, approved: [] }]),
    effects: [{ t: 'ask', step: to, people }],
  });
}

function handedOver(
  here: OpenStep,
  others: readonly OpenStep[],
  to: string,
  { sender }: Setting,
): ReturnType<typeof advance> {
  if (to === sender) return fail(invalid(issue('hand-over-to-sender', ['to'])));
  if ([...here.asked, ...here.approved, ...(here.against ?? [])].includes(to))
    return fail(invalid(issue('hand-over-to-asked', ['to'])));
  return ok({ state: waitingAt([{ ...here, asked: [...here.asked, to] }, ...others]), effects: [] });
}

/** Goes on to the first step from one on that is to be asked, and those beside it. `by`: who brought it there; null where nobody did. */
function enter(from: number, setting: Setting, by: string | null): ReturnType<typeof advance> {
  const { steps, sender, skipped, approvedBefore = [] } = setting;
  const approved = new Set(by === sender ? [] : [...approvedBefore, ...(by === null ? [] : [by])]);
  const isToAsk = (one: StepNow): boolean => !skipped.has(one.id) && !isSettled(one, sender, approved);
  const index = steps.findIndex((one, at) => at >= from && isToAsk(one));
  if (index < 0) return ok({ state: { ...ended, state: 'kept' }, effects: [{ t: 'keep-rows' }] });
  const without = steps
    .slice(index)
    .flatMap((one) => (skipped.has(one.id) ? [] : tooFew(one, sender, by === sender)));
  if (without.length > 0) return fail(invalid(...without));
  const { to } = roundOf(steps, index);
  const open = steps.flatMap((one, step): OpenStep[] =>
    step >= index && step <= to && isToAsk(one) ? [{ step, asked: askedFor(one, sender), approved: [] }] : [],
  );
  return ok({
    state: waitingAt(open),
    effects: open.map(({ step, asked }) => ({ t: 'ask', step, people: asked })),
  });
}

/** Whether all it would ask have approved before, and it is not to ask them again. */
function isSettled(step: ApprovalStep, sender: string, approved: ReadonlySet<string>): boolean {
  const asked = askedFor(step, sender);
  return step.unlessApproved === true && asked.length > 0 && asked.every((one) => approved.has(one));
}

const ended = { step: null, asked: [], approved: [], beside: [] } as const;

/** How many must approve of so many who can be asked. */
export const needed = ({ decide }: ApprovalStep, asked: number): number =>
  decide === undefined ? 1 : decide === 'all' ? asked : decide;

function tooFew(step: StepNow, sender: string, own: boolean): Issue[] {
  const { id, label } = step;
  const asked = askedFor(step, sender);
  if (asked.length === 0 && step.undecided !== undefined)
    return [issue('rules-undecided', ['steps', id], { step: label, rules: step.undecided })];
  if (asked.length === 0 && step.role !== undefined)
    return [issue('nobody-at-place', ['steps', id], { step: label })];
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
