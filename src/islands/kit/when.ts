import { showDate } from '../../core/formats/days';
import { formatsHere } from '../../core/formats/formats';
import { speak } from '../../core/wording/speak';

const made = new Map<string, Intl.DateTimeFormat>();

/** The parts of a moment in a zone; always in the same digits, whatever language is spoken. */
function partsOf(zone: string): Intl.DateTimeFormat {
  const known = made.get(zone);
  if (known !== undefined) return known;
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    day: '2-digit',
    month: '2-digit',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  made.set(zone, parts);
  return parts;
}

/** Fri 20 Nov 2026, 15:12, in the workspace's zone, alike on server and browser. */
export function when(iso: string): string {
  const read = Object.fromEntries(
    partsOf(formatsHere().zone)
      .formatToParts(new Date(iso))
      .map(({ type, value }) => [type, value]),
  );
  const day = showDate(`${read['year']}-${read['month']}-${read['day']}`);
  return `${day}, ${read['hour']}:${read['minute']}`;
}

export const clock = (iso: string): string => when(iso).slice(-5);

const UNITS: readonly (readonly [seconds: number, ago: (count: number) => string])[] = [
  [86_400, (count) => (count === 1 ? speak`a day ago` : speak`${count} days ago`)],
  [3_600, (count) => (count === 1 ? speak`an hour ago` : speak`${count} hours ago`)],
  [60, (count) => (count === 1 ? speak`a minute ago` : speak`${count} minutes ago`)],
];

/** How long ago it was at `now` (ms): 4 minutes, an hour, 3 days; the whole units that have passed. */
export function age(iso: string, now: number): string {
  const seconds = Math.max(0, (now - Date.parse(iso)) / 1_000);
  const found = UNITS.find(([length]) => seconds >= length);
  return found === undefined ? speak`just now` : found[1](Math.floor(seconds / found[0]));
}
