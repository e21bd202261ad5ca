import type { Place } from '../../contract/workspace';
import { daysOf, daysOff, type NamedDay } from '../../core/closed-days';
import type { ClosedDays } from '../../core/workspace';

/** Its tables are large, and only those who change settings ask, and the job of the night. */
async function holidaysAt(place = '') {
  const { default: Holidays } = await import('date-holidays');
  const [country = '', part] = place.split('-');
  return part === undefined ? new Holidays(country) : new Holidays(country, part);
}

const LANGUAGE = 'en';
const DAY_MS = 86_400_000;

/** Countries whose holidays are known, by name. */
export async function countries(): Promise<Place[]> {
  return placesOf((await holidaysAt()).getCountries(LANGUAGE));
}

/** The parts of a country that have holidays of their own, by codes that begin with that of the country. */
export async function partsOf(place: string): Promise<Place[]> {
  const [country = ''] = place.split('-');
  if (country === '') return [];
  const parts = (await holidaysAt()).getStates(country, LANGUAGE) as Record<string, string> | undefined;
  return placesOf(parts).map(({ code, label }) => ({ code: `${country}-${code}`, label }));
}

const placesOf = (named: Readonly<Record<string, string>> | undefined): Place[] =>
  Object.entries(named ?? {})
    .map(([code, label]) => ({ code, label }))
    .sort((a, b) => a.label.localeCompare(b.label, LANGUAGE));

/** Days on which nobody works at a place, by law, in some years. None where the place is not known. */
export async function publicHolidays(place: string, years: readonly number[]): Promise<NamedDay[]> {
  if (place === '') return [];
  const known = await holidaysAt(place);
  return years.flatMap((year) =>
    known
      .getHolidays(year, LANGUAGE)
      .filter(({ type }) => type === 'public' || type === 'bank')
      .flatMap(({ date, start, end, name }) => {
        const from = date.slice(0, 10);
        const days = Math.max(1, Math.round((end.getTime() - start.getTime()) / DAY_MS));
        const last = new Date(Date.parse(from) + (days - 1) * DAY_MS).toISOString().slice(0, 10);
        return daysOf({ from, until: last, name });
      }),
  );
}

/** Years whose public holidays are kept: steps of last year may still wait, and none has more time than a few hundred days. */
export const yearsAround = (today: string): number[] =>
  [-1, 0, 1, 2, 3].map((by) => Number(today.slice(0, 4)) + by);

interface Closing {
  readonly holidaysOf: string;
  readonly closed: readonly ClosedDays[];
}

/** All days around a day (ISO) on which nobody works, public ones and those one is closed besides. */
export const allDaysOff = async ({ holidaysOf, closed }: Closing, today: string): Promise<string[]> =>
  daysOff(await publicHolidays(holidaysOf, yearsAround(today)), closed).map(({ day }) => day);
