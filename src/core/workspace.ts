import type { World } from './expression/functions/builtin';
import { personValue, type KnownPerson } from './expression/person';

/** Days, years of numbers and times of day are those of the workspace, on every machine, until workspaces have settings of their own. */
export const workspaceZone = 'Europe/London';

/** ISO 4217; until workspaces have settings of their own, new money questions are asked in none, and their owner says which. */
export const workspaceCurrency = '';

/** The same for its working days: Monday to Friday. */
const workspaceCalendar: World['calendar'] = { workdays: new Set([1, 2, 3, 4, 5]), holidays: new Set() };

/** What expressions may ask of the world at an ISO date-time of the workspace's zone, in a form that `sender` sends. */
export const worldAt = (now: string, sender: KnownPerson | null = null): World => ({
  today: now.slice(0, 10),
  now,
  calendar: workspaceCalendar,
  sender: sender && personValue(sender),
});
