import { workspaceZone } from '../../core/workspace';

const parts = new Intl.DateTimeFormat('en-GB', { timeZone: workspaceZone, weekday: 'short', day: 'numeric', month: 'numeric', year: 'numeric', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Fri 20 Nov 2026, 15:12, in the workspace's zone, alike on server and browser. */
export function when(iso: string): string {
  const read = Object.fromEntries(parts.formatToParts(new Date(iso)).map(({ type, value }) => [type, value]));
  return `${read['weekday']} ${Number(read['day'])} ${months[Number(read['month']) - 1]} ${read['year']}, ${read['hour']}:${read['minute']}`;
}

export const clock = (iso: string): string => when(iso).slice(-5);
