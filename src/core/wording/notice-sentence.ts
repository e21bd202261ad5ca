import type { NoticeFacts } from '../notice/notice';
import { showDate } from '../formats/days';
import { speak } from './speak';

/** What a notice tells, in a sentence without its full stop: in the list of notices, and as what a mail is about. */
export function noticeSentence(facts: NoticeFacts): string {
  const { kind, by, sender, handed, passed, insteadOf, standsInFor, due } = facts;
  const what = whatItIs(facts);
  const instead = standsInFor === null ? '' : speak` in place of ${standsInFor}, who is away`;
  switch (kind) {
    case 'asked':
      return handed
        ? speak`${by} handed ${what} over to you${instead}`
        : speak`${sender} asks you to approve ${what}${insteadOf === null ? '' : speak`, for ${insteadOf} is late`}${instead}`;
    case 'kept':
      return passed
        ? speak`${what} went on without an approval that was late, and it is kept`
        : speak`${by} approved ${what}, and it is kept`;
    case 'sent-back':
      return speak`${by} sent ${what} back to you`;
    case 'corrected':
      return speak`${by} corrected ${what}`;
    case 'declined':
      return speak`${by} declined ${what}`;
    case 'withdrawn':
      return speak`${by} withdrew ${what}; you need not decide it`;
    case 'remark':
      return speak`${by} wrote about ${what}`;
    case 'soon':
      return speak`${sender}’s ${what} is due on ${showDate(due ?? '')}${instead}`;
    case 'passed':
      return speak`${sender}’s ${what} was late, and went on without you`;
    case 'due':
      return speak`${sender}’s ${what} is due today${instead}`;
    case 'late':
      return speak`${sender}’s ${what} was due on ${showDate(due ?? '')}${instead}`;
  }
}

/** “Treatment TR-2026-0412”. */
export const whatItIs = ({ title, number }: Pick<NoticeFacts, 'title' | 'number'>): string =>
  number === null ? title : `${title} ${number}`;
