import { messageWithout } from '../check/message';
import type { Mailed } from '../form/design';
import type { FormulaUse } from '../form/formula';

/** Which mail is meant: “the mail when …”. */
export const mailedWords: Readonly<Record<Mailed, string>> = {
  asked: 'to those who are asked',
  'sent-back': 'when it is sent back',
  declined: 'when it is declined',
  kept: 'when it is approved and kept',
};

/** What somebody who changes a name has to think of as well: whatever is worked out of it. */
export function formulaSentence(what: FormulaUse): string {
  switch (what.t) {
    case 'calculated':
      return `the calculation ${what.question.label || what.question.key}`;
    case 'following':
      return `${what.question.label}, which follows it`;
    case 'total':
      return `the total ${what.total.label}`;
    case 'check':
      return what.check.message === ''
        ? 'a check without a message'
        : `the check “${messageWithout(what.check.message)}”`;
    case 'message':
      return `the message “${messageWithout(what.check.message)}”`;
    case 'mail':
      return `the mail ${mailedWords[what.on]}`;
    case 'asked':
      return 'questions' in what.of
        ? `whether the section ${what.of.title || 'without a title'} is asked`
        : `whether ${what.of.label} is asked`;
    case 'required':
      return `whether ${what.of.label} must be filled`;
    case 'fits':
      return `what ${what.question.label} can be picked from`;
    case 'starts':
      return `the rows ${what.group.label} begins with`;
    case 'step':
      return `whether the step ${what.step.label} is asked`;
    case 'whom':
      return `whom the step ${what.step.label} asks`;
    case 'place':
      return `at which place the step ${what.step.label} asks`;
    case 'otherwise':
      return `the calculation ${what.question.label || what.question.key}`;
    case 'rules':
    case 'fill':
    case 'given':
      return `the rules ${what.table.label}`;
    case 'further':
      return what.column === null ? 'whether something is written on besides' : 'what is written on besides';
  }
}
