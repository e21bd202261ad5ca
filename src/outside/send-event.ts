import { Webhook } from 'standardwebhooks';
import type { Delivered } from '../core/event/delivery';
import { CLOUD_EVENT, type CloudEvent } from '../core/event/event';
import { isInside } from '../core/link/address-policy';
import { pinnedRequest } from './pinned-request';
import { reachable } from './reach';

/** Whether anything may be told at an address: only what is inside, and named by whoever runs the machine, is told without encryption. */
export async function placeOf(url: string): Promise<'fine' | 'no-address' | 'plain' | 'inside' | 'nowhere'> {
  if (!URL.canParse(url)) return 'no-address';
  const { protocol, hostname, username, password, hash } = new URL(url);
  const isPlain = protocol === 'http:';
  if ((protocol !== 'https:' && !isPlain) || username !== '' || password !== '' || hash !== '')
    return 'no-address';
  const at = await reachable(hostname);
  if (at === null) return 'nowhere';
  if (at === 'inside') return 'inside';
  return isPlain && !isInside(at.address) ? 'plain' : 'fine';
}

/** How long an address may take, in milliseconds: the time that Standard Webhooks 1.0 proposes. */
const PATIENCE = 15_000;

/**
 * Tells an address of an event: CloudEvents 1.0 over HTTP in structured mode, signed by the Standard Webhooks
 * scheme under `secret` (`whsec_…`). The same event is told under the same `webhook-id` however often it is
 * tried. `now` is the time of this try.
 */
export async function sendEvent(
  { url, secret }: { readonly url: string; readonly secret: string },
  event: CloudEvent,
  now: Date,
): Promise<Delivered> {
  const begun = performance.now();
  const came = (status: number | null, fault: Delivered['fault']): Delivered => ({
    status,
    fault,
    ms: Math.round(performance.now() - begun),
  });
  const at = await reachable(new URL(url).hostname);
  if (at === 'inside') return came(null, 'inside');
  if (at === null) return came(null, 'no-answer');
  const body = JSON.stringify(event);
  const id = `event_${event.id}`;
  try {
    const answer = await pinnedRequest(url, at, {
      method: 'POST',
      headers: {
        'content-type': `${CLOUD_EVENT}; charset=UTF-8`,
        'content-length': String(Buffer.byteLength(body)),
        'user-agent': 'Tidy-Slate',
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(now.getTime() / 1_000)),
        'webhook-signature': new Webhook(secret).sign(id, now, body),
      },
      body,
      patience: PATIENCE,
    });
    // What is answered besides is nothing to us, also where it is cut off.
    answer.on('error', () => undefined).resume();
    const status = answer.statusCode ?? 0;
    if (status >= 200 && status < 300) return came(status, null);
    return came(status, status >= 300 && status < 400 ? 'redirect' : 'answer');
  } catch {
    return came(null, 'no-answer');
  }
}
