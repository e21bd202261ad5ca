/**
 * Where sources may be. A host inside, on this machine or its network, would let whoever sets a source up
 * look at what only we can reach; so those need to be named by whoever runs the machine. Pure: names are
 * resolved elsewhere, and each address they give is asked about.
 */
export type Inside = readonly string[];

/** Whether a source may be at an address its host has. `named` are addresses or ranges such as `10.1.0.0/16`, or hosts. */
export function mayReach(host: string, address: string, named: Inside): boolean {
  if (!isInside(address)) return true;
  return named.some((one) => one === host || one === address || inRange(address, one));
}

/** Loopback, private, link-local (where clouds keep their metadata), carrier-grade, multicast, reserved and unspecified addresses. */
const RANGES = [
  '0.0.0.0/8',
  '10.0.0.0/8',
  '100.64.0.0/10',
  '127.0.0.0/8',
  '169.254.0.0/16',
  '172.16.0.0/12',
  '192.0.0.0/24',
  '192.168.0.0/16',
  '198.18.0.0/15',
  '224.0.0.0/3',
];

export function isInside(address: string): boolean {
  const four = asFour(address);
  if (four !== null) return RANGES.some((range) => inRange(four, range));
  const six = address.toLowerCase().split('%')[0] ?? '';
  // Of version 6 only what is routed in the world begins with 2 or 3; what wraps an address of version 4 was looked at above.
  return !/^[23][0-9a-f]{3}:/.test(six) || /^(2001:0?:|2002:)/.test(six);
}

/** An address of version 4, also where one of version 6 wraps it; null for any other. */
function asFour(address: string): string | null {
  const [, wrapped] = /^(?:::ffff:|64:ff9b::)(\d+\.\d+\.\d+\.\d+)$/i.exec(address) ?? [];
  const four = wrapped ?? address;
  return number(four) === null ? null : four;
}

function inRange(address: string, range: string): boolean {
  const [base = '', bits = '32'] = range.split('/');
  const [at, from] = [number(address), number(base)];
  if (at === null || from === null || !/^\d+$/.test(bits)) return false;
  const size = 2 ** (32 - Math.min(32, Number(bits)));
  return Math.floor(at / size) === Math.floor(from / size);
}

function number(address: string): number | null {
  const parts = address.split('.');
  if (parts.length !== 4 || !parts.every((part) => /^\d{1,3}$/.test(part) && Number(part) < 256)) return null;
  return parts.reduce((sum, part) => sum * 256 + Number(part), 0);
}
