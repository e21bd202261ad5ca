import { formatsHere } from './formats';

const made = new Map<string, Intl.DateTimeFormat>();

function partsOf(zone: string): Intl.DateTimeFormat {
  const known = made.get(zone);
  if (known !== undefined) return known;
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    weekday: 'short',
    day: 'numeric',
    month: 'numeric',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  made.set(zone, parts);
  return parts;
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Fri 20 Nov 2026, 15:12, in the workspace's zone, alike on server and browser. */
export function when(iso: string): string {
  const read = Object.fromEntries(
    partsOf(formatsHere().zone)
      .formatToParts(new Date(iso))
      .map(({ type, value }) => [type, value]),
  );
  return `${read['weekday']} ${Number(read['day'])} ${months[Number(read['month']) - 1]} ${read['year']}, ${read['hour']}:${read['minute']}`;
}

export const clock = (iso: string): string => when(iso).slice(-5);

const UNITS: readonly (readonly [seconds: number, one: string, many: string])[] = [
  [86_400, 'a day', 'days'],
  [3_600, 'an hour', 'hours'],
  [60, 'a minute', 'minutes'],
];

/** How long ago it was at `now` (ms): 4 minutes, an hour, 3 days; the whole units that have passed. */
export function age(iso: string, now: number): string {
  const seconds = Math.max(0, (now - Date.parse(iso)) / 1_000);
  const [unit, one, many] = UNITS.find(([length]) => seconds >= length) ?? [1, '', ''];
  const count = Math.floor(seconds / unit);
  return one === '' ? 'just now' : `${count === 1 ? one : `${count} ${many}`} ago`;
}
