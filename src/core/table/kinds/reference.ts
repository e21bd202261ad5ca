import { TEXT } from '../../expression/type';
import { isRecord } from '../../expression/value';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import type { Kind } from './kind';

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** A record of another table, kept by its id and shown by its title. */
export const reference: Kind = {
  type: TEXT,
  columnType: () => 'uuid',
  read: (raw) => (typeof raw === 'string' && UUID.test(raw) ? ok(raw) : fail(issue('not-a-record', []))),
  show: (value) => (isRecord(value) ? value.title : ''),
};
