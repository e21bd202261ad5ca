import type { WaitingCase, WaitingCases } from '../../contract/waiting-cases';
import { advance } from '../../core/approval/path';
import { atSteps } from '../../core/approval/at-step';
import { peopleHere, type Catalogue } from '../../core/catalogue/catalogue';
import { issue } from '../../core/kernel/issue';
import { grouped } from '../../core/kernel/grouped';
import { invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { caseInHand, moveCase as move, waitingCases, type WaitingRow } from '../../data/system/waiting-cases';
import { administering } from '../people/keep-person';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';
import { speak } from '../../core/wording/speak';

/** Shown at once; the rest is found by words. */
const MOST = 200;

/** What waits, for administrators: where and for whom, not what was answered. What nobody can decide comes first. */
export async function openWaiting(context: Context, words: string): Promise<Result<WaitingCases, Refusal>> {
  return administering(context, async (tx, catalogue) => {
    const rows = await waitingCases(tx, words.trim(), MOST + 1);
    const cases = [...grouped(rows, ({ id }) => id).values()].map((of) => waitingCase(catalogue, of));
    return ok({
      cases,
      more: rows.length > MOST,
      people: peopleHere(catalogue).map(({ id, name, place }) => ({ id, name, place })),
      me: context.person.id,
    });
  });
}

function waitingCase(catalogue: Catalogue, rows: readonly WaitingRow[]): WaitingCase {
  const [first] = rows;
  if (first === undefined) throw new Error('a case without a step');
  const person = (id: string) => {
    const found = catalogue.people.get(id);
    return { id, name: found?.name ?? speak`Somebody no longer here`, ended: found?.ended !== false };
  };
  return {
    id: first.id,
    number: first.number ?? '',
    title: first.title,
    sender: person(first.sender),
    steps: first.labels,
    waits: rows
      .map(({ step, asked, since, stuck, trouble }) => ({
        step,
        asked: asked.map(person),
        since,
        stuck,
        trouble,
      }))
      .sort((a, b) => a.step - b.step),
  };
}

export interface Moving {
  readonly key: string;
  /** The step it waits at, and where it goes; the same, where only somebody else is asked. */
  readonly from: number;
  readonly to: number;
  readonly person: string;
  readonly word: string;
}

/** An administrator has somebody else decide a step, or takes it to another one; the reason stands in its trail. */
export async function moveCase(
  context: Context,
  id: string,
  { key, from, to, person, word }: Moving,
): Promise<Result<{ state: string }, Refusal>> {
  return administering(context, (tx, catalogue) =>
    once(tx, context, key, { operation: 'move', of: id, said: [from, to, person, word] }, async () => {
      const found = await caseInHand(tx, id);
      if (found === null) return fail(notFound('submission'));
      if (found.state !== 'waiting') return fail(stale('already-decided', { state: found.state }));
      if (catalogue.people.get(person)?.ended !== false)
        return fail(invalid(issue('not-a-colleague', ['person'])));
      const said = atSteps(found.events, found.step, found.steps);
      const open = found.open.map((one) => ({
        ...one,
        approved: said.approved(one.step),
        against: said.against(one.step),
      }));
      const [first, ...beside] = open;
      if (first === undefined) return fail(stale('already-decided', { state: found.state }));
      const next = advance(
        { state: 'waiting', ...first, beside },
        { t: 'move', from, to, person, word },
        context.person.id,
        { steps: found.steps, sender: found.sender, skipped: new Set() },
      );
      if (!next.ok) return next;
      await move(tx, id, { from, to, person, word: word.trim(), at: context.now });
      return ok({ state: next.value.state.state });
    }),
  );
}
