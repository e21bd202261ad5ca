import { dayInDigits, typedDay } from './days';
import { numberAsKept, numberAsTyped } from './numbers';

/** A day and the time behind it: after a T, a comma or a space. */
const WITH_TIME = /^(.*?)(?:T|,? +)([^ ]+)$/;

/**
 * What somebody typed or pasted for a kind of answer, as everybody keeps it: ISO days, digits with a point.
 * What is neither stays as it was typed, for its kind to ask about.
 */
export function asKept(kind: string, typed: string): string {
  switch (kind) {
    case 'whole':
    case 'decimal':
    case 'money':
      return numberAsKept(typed);
    case 'date':
      return typedDay(typed) ?? typed;
    case 'date-time': {
      const [, day = '', at = ''] = WITH_TIME.exec(typed.trim()) ?? [];
      const known = typedDay(day);
      return known === null ? typed : `${known} ${at}`;
    }
    default:
      return typed;
  }
}

/** What is kept, as it would be typed here; `asKept` is the inverse. */
export function asTyped(kind: string, kept: string): string {
  switch (kind) {
    case 'whole':
    case 'decimal':
    case 'money':
      return numberAsTyped(kept);
    case 'date':
      return /^\d{4}-\d\d-\d\d$/.test(kept) ? dayInDigits(kept) : kept;
    case 'date-time': {
      const [, day = '', at = ''] = /^(\d{4}-\d\d-\d\d)[T ](.+)$/.exec(kept) ?? [];
      return day === '' ? kept : `${dayInDigits(day)} ${at.replace(/:00(\.0+)?$/, '')}`;
    }
    default:
      return kept;
  }
}
