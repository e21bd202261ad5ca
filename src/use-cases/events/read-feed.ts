import type { CloudEvent } from '../../core/event/event';
import { issue } from '../../core/kernel/issue';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { eventsAfter, putInOrder, type Places } from '../../data/system/events';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { allSeen, told } from './what-happened';

export interface FeedQuery {
  /** The id of the last event that was read; from the first there is without it. */
  readonly lastEventId?: number | undefined;
  readonly limit: number;
}

export interface Feed {
  readonly events: readonly CloudEvent[];
  /** The id from after which it goes on; null at the end. */
  readonly next: number | null;
}

/** Places looked at in one statement, and of one request: whoever sees hardly anything of very much goes on with the next. */
const [AT_ONCE, MOST] = [10_000, 200_000];

/**
 * What happened since, in its order, as whoever asks sees it: the HTTP feeds convention, of CloudEvents. Each
 * event is told at least once; nothing that is told later belongs before.
 */
export async function readFeed(
  { person: { id: person } }: Context,
  { lastEventId, limit }: FeedQuery,
): Promise<Result<Feed, Refusal>> {
  const places = await asPerson({ person }, async (tx) => ok(await putInOrder(tx)));
  if (!places.ok) return places;
  const { last, gone } = places.value;
  const from = lastEventId ?? gone;
  if (from < gone) return fail(invalid(issue('events-gone', ['lastEventId'], { gone })));
  return asPerson({ person }, async (tx, catalogue) => {
    const wanted = allSeen(catalogue, person);
    for (let after = Math.min(from, last); ; after += AT_ONCE) {
      const upTo = Math.min(after + AT_ONCE, last);
      const events = await eventsAfter(tx, wanted, { after, upTo, most: limit });
      const ends = upTo === last || upTo - from >= MOST;
      if (events.length === 0 && !ends) continue;
      return ok({
        events: await told(tx, catalogue, person, events),
        next: nextOf(events, upTo, limit, { last, gone }),
      });
    }
  });
}

function nextOf(
  events: readonly { readonly position: number }[],
  upTo: number,
  limit: number,
  { last }: Places,
): number | null {
  const next = events.length === limit ? (events.at(-1)?.position ?? upTo) : upTo;
  return next < last ? next : null;
}
