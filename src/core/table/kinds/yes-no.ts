import { YES_NO } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';

export const yesNo: Kind = {
  type: YES_NO,
  columnType: () => 'boolean',
  read: (raw) => (typeof raw === 'boolean' ? ok(raw) : fail(issue('not-yes-no', []))),
  write: asItIs,
  show: (value) => (value === true ? 'Yes' : value === false ? 'No' : ''),
};
