import { TEXT } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';

/** A stored code with a label people see; expressions read the code. */
export const choice: Kind = {
  type: TEXT,
  columnType: () => 'text',
  read(raw, { choices = [] }) {
    return choices.some(({ code }) => code === raw) ? ok(raw) : fail(issue('not-a-choice', []));
  },
  write: asItIs,
  show: (value, { choices = [] }) =>
    choices.find(({ code }) => code === value)?.label ?? (typeof value === 'string' ? value : ''),
};
