import type { NoticeFacts } from '../notice/notice';
import { showDate } from '../table/kinds/date';

/** What a notice tells, in a sentence without its full stop: in the list of notices, and as what a mail is about. */
export function noticeSentence(facts: NoticeFacts): string {
  const { kind, by, sender, handed, passed, insteadOf, standsInFor, due } = facts;
  const what = whatItIs(facts);
  const instead = standsInFor === null ? '' : ` in place of ${standsInFor}, who is away`;
  switch (kind) {
    case 'asked':
      return handed
        ? `${by} handed ${what} over to you${instead}`
        : `${sender} asks you to approve ${what}${insteadOf === null ? '' : `, for ${insteadOf} is late`}${instead}`;
    case 'kept':
      return passed
        ? `${what} went on without an approval that was late, and it is kept`
        : `${by} approved ${what}, and it is kept`;
    case 'sent-back':
      return `${by} sent ${what} back to you`;
    case 'corrected':
      return `${by} corrected ${what}`;
    case 'declined':
      return `${by} declined ${what}`;
    case 'withdrawn':
      return `${by} withdrew ${what}; you need not decide it`;
    case 'remark':
      return `${by} wrote about ${what}`;
    case 'soon':
      return `${sender}’s ${what} is due on ${showDate(due ?? '')}${instead}`;
    case 'passed':
      return `${sender}’s ${what} was late, and went on without you`;
    case 'due':
      return `${sender}’s ${what} is due today${instead}`;
    case 'late':
      return `${sender}’s ${what} was due on ${showDate(due ?? '')}${instead}`;
  }
}

/** “Treatment TR-2026-0412”. */
export const whatItIs = ({ title, number }: Pick<NoticeFacts, 'title' | 'number'>): string =>
  number === null ? title : `${title} ${number}`;
