import Big from 'big.js';
import { addDays } from './expression/moment';
import type { ClosedDays } from './workspace';

/** A day with why nobody works on it. */
export interface NamedDay {
  /** ISO date. */
  readonly day: string;
  readonly name: string;
}

const DAY = new Big(86_400);

/** Each day of those that are closed in a row. */
export function daysOf({ from, until, name }: ClosedDays): NamedDay[] {
  const days: NamedDay[] = [];
  for (let day: string | null = from; day !== null && day <= until; day = addDays(day, DAY))
    days.push({ day, name });
  return days;
}

/** All days nobody works on, in order, each once: public ones first, where both say why. */
export function daysOff(publicDays: readonly NamedDay[], closed: readonly ClosedDays[]): NamedDay[] {
  const names = new Map<string, string>();
  for (const { day, name } of [...publicDays, ...closed.flatMap(daysOf)])
    if (!names.has(day)) names.set(day, name);
  return [...names].map(([day, name]) => ({ day, name })).sort((a, b) => (a.day < b.day ? -1 : 1));
}
