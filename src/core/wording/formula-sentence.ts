import { messageWithout } from '../check/message';
import type { Mailed } from '../form/design';
import type { FormulaUse } from '../form/formula';
import { speak, spoken } from './speak';

/** Which mail is meant: “the mail when …”. */
export const mailedWords = spoken((): Readonly<Record<Mailed, string>> => ({
  asked: speak`to those who are asked`,
  'sent-back': speak`when it is sent back`,
  declined: speak`when it is declined`,
  kept: speak`when it is approved and kept`,
}));

/** What somebody who changes a name has to think of as well: whatever is worked out of it. */
export function formulaSentence(what: FormulaUse): string {
  switch (what.t) {
    case 'calculated':
      return speak`the calculation ${what.question.label || what.question.key}`;
    case 'following':
      return speak`${what.question.label}, which follows it`;
    case 'total':
      return speak`the total ${what.total.label}`;
    case 'check':
      return what.check.message === ''
        ? speak`a check without a message`
        : speak`the check “${messageWithout(what.check.message)}”`;
    case 'message':
      return speak`the message “${messageWithout(what.check.message)}”`;
    case 'mail':
      return speak`the mail ${mailedWords()[what.on]}`;
    case 'asked':
      return 'questions' in what.of
        ? speak`whether the section ${what.of.title || speak`without a title`} is asked`
        : speak`whether ${what.of.label} is asked`;
    case 'required':
      return speak`whether ${what.of.label} must be filled`;
    case 'fits':
      return speak`what ${what.question.label} can be picked from`;
    case 'starts':
      return speak`the rows ${what.group.label} begins with`;
    case 'step':
      return speak`whether the step ${what.step.label} is asked`;
    case 'whom':
      return speak`whom the step ${what.step.label} asks`;
    case 'place':
      return speak`at which place the step ${what.step.label} asks`;
    case 'otherwise':
      return speak`the calculation ${what.question.label || what.question.key}`;
    case 'rules':
    case 'fill':
    case 'given':
      return speak`the rules ${what.table.label}`;
    case 'further':
      return what.column === null
        ? speak`whether something is written on besides`
        : speak`what is written on besides`;
  }
}
