import { Temporal } from 'temporal-polyfill';

const WRITTEN = /^\d{4}-\d{2}-\d{2}$/;

/** The text itself when it is a day of the calendar as ISO 8601 writes it, else null (30 February is no day). */
export function plainDate(text: string): string | null {
  if (!WRITTEN.test(text) || text.startsWith('0000')) return null;
  try {
    return Temporal.PlainDate.from(text, { overflow: 'reject' }).toString();
  } catch {
    return null;
  }
}
