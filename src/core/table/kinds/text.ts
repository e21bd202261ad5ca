import { TEXT } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { limits } from '../../limits';
import { asItIs, type Kind } from './kind';

export const text: Kind = {
  type: TEXT,
  columnType: () => 'text',
  read(raw, { long }) {
    if (typeof raw !== 'string') return fail(issue('not-text', []));
    const most = long ? limits.longText : limits.shortText;
    if ([...raw].length > most) return fail(issue('too-long', [], { most, given: [...raw].length }));
    // PostgreSQL cannot keep the NUL character in text.
    return ok(raw.replaceAll('\u0000', '').trim());
  },
  write: asItIs,
  show: (value) => (typeof value === 'string' ? value : ''),
};
