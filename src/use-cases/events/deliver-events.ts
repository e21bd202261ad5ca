import { next, type Delivered } from '../../core/event/delivery';
import { numberOf, type CloudEvent } from '../../core/event/event';
import { fail, ok } from '../../core/kernel/result';
import { notFound } from '../../core/kernel/refusal';
import { unsealed } from '../../data/secret';
import {
  claimAddress,
  eventsAfter,
  moveAddress,
  noteDelivery,
  putInOrder,
  releaseAddress,
  stopBecause,
  type ClaimedAddress,
} from '../../data/system/events';
import { asOwner, asPerson } from '../../data/transaction';
import { sendEvent } from '../../outside/send-event';
import { told } from './what-happened';
import { wantedBy } from './wanted';

const NOBODY = { person: '' };
/**
 * Addresses that are told at the same time, so that a slow one keeps few waiting; events read together, and
 * told in one round: then it is the turn of others.
 */
const [LANES, PAGE, ROUND] = [4, 50, 200];
const FIRST = '00000000-0000-0000-0000-000000000000';

/** How an address is told, and by which clock: others in tests. */
interface By {
  readonly send: (to: { url: string; secret: string }, event: CloudEvent, now: Date) => Promise<Delivered>;
  readonly now: () => Date;
}

/**
 * Tells each address what happened since, in its order, one event after the other: what is not taken is tried
 * again later, and what came after it waits. An address is claimed by one worker at a time. One that is
 * killed between telling and noting it tells the same again a minute later, under the same id.
 */
export async function deliverEvents(by: By = { send: sendEvent, now: () => new Date() }): Promise<void> {
  const places = await asOwner(NOBODY, async (tx) => ok(await putInOrder(tx)));
  if (!places.ok) return;
  const { last } = places.value;
  await Promise.all(Array.from({ length: LANES }, () => lane(by, last)));
}

async function lane(by: By, last: number): Promise<void> {
  for (let after = FIRST; ;) {
    const claimed = await asOwner(NOBODY, async (tx) => ok(await claimAddress(tx, after, by.now())));
    if (!claimed.ok || claimed.value === null) return;
    after = claimed.value.id;
    await tellAll(by, claimed.value, last);
  }
}

/** A page of what an address is to be told, with the place of each; null where whoever it sees as has left. */
async function pageFor(address: ClaimedAddress, last: number) {
  const { personId: person, position: after } = address;
  const page = await asPerson({ person }, async (tx, catalogue) => {
    if (catalogue.people.get(person)?.ended !== false) return fail(notFound('person'));
    const events = await eventsAfter(tx, wantedBy(catalogue, address), { after, upTo: last, most: PAGE });
    const clouds = await told(tx, catalogue, person, events);
    return ok(events.map(({ position, kind }, i) => ({ position, kind, cloud: clouds[i] })));
  });
  return page.ok ? page.value : null;
}

async function tellAll(by: By, claimed: ClaimedAddress, last: number): Promise<void> {
  const secret = unsealed(claimed.secret, claimed.id);
  if (secret === null) return stop(claimed, 'secret', by.now());
  let here = claimed;
  for (let count = 0; count < ROUND;) {
    const page = await pageFor(here, last);
    if (page === null) return stop(here, 'left', by.now());
    for (const { position, kind, cloud } of page) {
      if (cloud === undefined) continue;
      const moved = await tellOne(by, here, secret, { position, kind, cloud });
      if (moved === null) return;
      here = moved;
      count++;
    }
    if (page.length < PAGE) return passOver(here, last, by.now());
  }
  await asOwner(NOBODY, async (tx) => ok(await releaseAddress(tx, here.id)));
}

interface One {
  readonly position: number;
  readonly kind: string;
  readonly cloud: CloudEvent;
}

/** Tells one event and notes what became of it; null where nothing more is told now. */
async function tellOne(
  { send, now }: By,
  here: ClaimedAddress,
  secret: string,
  { position, kind, cloud }: One,
): Promise<ClaimedAddress | null> {
  const delivered = await send({ url: here.url, secret }, cloud, now());
  const at = now();
  const after = next(delivered, here.tries, at, Math.random());
  const moved = await asOwner(NOBODY, async (tx) => {
    await noteDelivery(tx, here.id, { position, kind, subject: numberOf(cloud) }, delivered, at);
    return ok(
      await moveAddress(tx, here, { to: after.t === 'on' ? position : here.position, after, now: at }),
    );
  });
  return moved.ok && after.t === 'on' ? moved.value : null;
}

/** What else there is by now is nothing for it. */
async function passOver(here: ClaimedAddress, last: number, now: Date): Promise<void> {
  await asOwner(NOBODY, async (tx) => {
    if (here.position < last) await moveAddress(tx, here, { to: last, after: { t: 'on' }, now });
    return ok(await releaseAddress(tx, here.id));
  });
}

async function stop({ id }: ClaimedAddress, because: 'left' | 'secret', now: Date): Promise<void> {
  await asOwner(NOBODY, async (tx) => ok(await stopBecause(tx, id, because, now)));
}
