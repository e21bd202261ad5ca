import { YES_NO } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';
import { speak } from '../../wording/speak';

export const yesNo: Kind = {
  type: YES_NO,
  columnType: () => 'boolean',
  read: (raw) => (typeof raw === 'boolean' ? ok(raw) : fail(issue('not-yes-no', []))),
  write: asItIs,
  show: (value) => (value === true ? speak`Yes` : value === false ? speak`No` : ''),
};
