import type { DeliveryData } from '../../contract/events';
import { mayAdminister } from '../../core/access/rules';
import { numberOf, triedEvent, type CloudEvent } from '../../core/event/event';
import { newUuid } from '../../core/kernel/ids';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { origin } from '../../data/origin';
import { unsealed } from '../../data/secret';
import { eventAt, noteDelivery, readAddress, secretOf, type AddressRow } from '../../data/system/events';
import { asOwner, asPerson } from '../../data/transaction';
import { sendEvent } from '../../outside/send-event';
import type { Context } from '../workspace/asking';
import { told } from './what-happened';
import { wantedBy } from './wanted';

/** What is told by hand: an event that is about nothing, or one that was told before. */
interface ByHand {
  readonly position: number | null;
  readonly kind: string;
  readonly event: CloudEvent;
}

/** Tries whether an address answers, with an event that is about nothing. */
export const tryAddress = (context: Context, id: string): Promise<Result<DeliveryData, Refusal>> =>
  byHand(context, id, () => {
    const event = triedEvent(newUuid(), origin(), context.now);
    return Promise.resolve(ok({ position: null, kind: 'tried', event }));
  });

/** Tells an address one event once more, under the id it had. */
export const tellAgain = (
  context: Context,
  id: string,
  { position }: { readonly position: number },
): Promise<Result<DeliveryData, Refusal>> =>
  byHand(context, id, (address) =>
    asPerson({ person: address.personId }, async (tx, catalogue) => {
      const found = await eventAt(tx, wantedBy(catalogue, address), position);
      const [event] = found === null ? [] : await told(tx, catalogue, address.personId, [found]);
      return found === null || event === undefined
        ? fail(notFound('page'))
        : ok({ position, kind: found.kind, event });
    }),
  );

/** Nothing waits for the address but whoever asks; what is told in its order goes on beside it. */
async function byHand(
  context: Context,
  id: string,
  what: (address: AddressRow) => Promise<Result<ByHand, Refusal>>,
): Promise<Result<DeliveryData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  const asking = { person: context.person.id };
  const address = await asPerson(asking, async (tx) => ok(await readAddress(tx, id)));
  if (!address.ok) return address;
  if (address.value === null) return fail(notFound('page'));
  const made = await what(address.value);
  if (!made.ok) return made;
  const found = await asOwner(asking, async (tx) => ok(await secretOf(tx, id)));
  const secret = found.ok && found.value !== null ? unsealed(found.value, id) : null;
  if (secret === null) return fail(notFound('page'));
  const { position, kind, event } = made.value;
  const delivered = await sendEvent({ url: address.value.url, secret }, event, context.now);
  const subject = numberOf(event);
  await asOwner(asking, async (tx) => {
    await noteDelivery(tx, id, { position, kind, subject }, delivered, context.now);
    return ok(null);
  });
  return ok({ position, kind, subject, ...delivered, at: context.now.toISOString() });
}
