import { TEXT } from '../../expression/type';
import { isRecord } from '../../expression/value';
import { isUuid } from '../../kernel/ids';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';

/** A record of another table, kept by its id and shown by its title. */
export const reference: Kind = {
  type: TEXT,
  columnType: () => 'uuid',
  read: (raw) => (typeof raw === 'string' && isUuid(raw) ? ok(raw) : fail(issue('not-a-record', []))),
  write: (value) => (isRecord(value) ? value.id : asItIs(value)),
  show: (value) => (isRecord(value) ? value.title : ''),
};
