import { DATE } from '../../expression/type';
import { readDay, showDate } from '../../formats/days';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';

export const date: Kind = {
  type: DATE,
  columnType: () => 'date',
  read(raw) {
    const known = typeof raw === 'string' ? readDay(raw) : null;
    return known === null ? fail(issue('not-a-date', [])) : ok(known);
  },
  show: (value) => (typeof value === 'string' ? showDate(value) : ''),
  write: asItIs,
};
