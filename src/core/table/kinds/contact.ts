import { isEmail, isWebAddress } from '../../import/formats/words';
import { TEXT } from '../../expression/type';
import { issue, type IssueCode } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';

/** Texts of a shape, kept as they are written. */
const shaped = (is: (text: string) => boolean, code: IssueCode): Kind => ({
  type: TEXT,
  columnType: () => 'text',
  read(raw) {
    const written = typeof raw === 'string' ? raw.trim() : '';
    return is(written) ? ok(written) : fail(issue(code, []));
  },
  write: asItIs,
  show: (value) => (typeof value === 'string' ? value : ''),
});

export const eMail = shaped(isEmail, 'not-an-e-mail');
export const webAddress = shaped(isWebAddress, 'not-a-web-address');
/** Whatever could be dialled: three digits are enough, for extensions are numbers too. */
export const phone = shaped(
  (text) => /^\+?[\d\s()./-]{3,30}$/.test(text) && text.replace(/\D/g, '').length >= 3,
  'not-a-phone',
);
