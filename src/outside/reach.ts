import { lookup as lookupAll } from 'node:dns/promises';
import { isIP } from 'node:net';
import { mayReach, type Inside } from '../core/link/address-policy';

/** Hosts, addresses and ranges inside that whoever runs the machine has named, parted by commas. */
const named = (): Inside =>
  (process.env['SLATE_SOURCES_INSIDE'] ?? '')
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');

/**
 * The address to connect to, as its host has it now: null when it has none, `inside` when any of them is one
 * a source may not be at. What was asked about is what is to be connected to, for a name may mean something
 * else a moment later.
 */
export async function reachable(
  host: string,
): Promise<{ address: string; family: number } | 'inside' | null> {
  const bare = host.replace(/^\[|\]$/g, '');
  const found =
    isIP(bare) > 0
      ? [{ address: bare, family: isIP(bare) }]
      : await lookupAll(bare, { all: true }).catch(() => []);
  if (found.some(({ address }) => !mayReach(bare, address, named()))) return 'inside';
  return found[0] ?? null;
}
