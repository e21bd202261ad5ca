import type { Time } from '../approval/due';
import type { Why } from '../approval/whom';
import { type ApprovalStep } from '../form/design';
import { rowLetter } from '../form/numbered-lines';
import type { Ruled, RuleTable } from '../rules/rules';
import { counted } from './numbers';
import { speak } from './speak';

/** Whom a step waits for: “Pell”, “any of Ada, Pell”, “all of Ada, Pell, within 2 working days”, “at least 2 of Ada, Pell, Lee”. */
export function askedWords(
  { decide, ...time }: Pick<ApprovalStep, 'decide'> & Time,
  names: readonly string[],
): string {
  const [only = ''] = names;
  const asked = names.length < 2 ? only : speak`${decideWords(decide)} of ${names.join(', ')}`;
  return time.within === undefined ? asked : speak`${asked}, within ${timeWords(time)}`;
}

/** How long a step may take: “2 working days”, “4 working hours”; empty where it has no time. */
export const timeWords = ({ within, hours }: Time): string =>
  within === undefined ? '' : counted(within, hours === true ? 'working hour' : 'working day');

/** A, B … Z, AA: steps that are asked at the same time have the same letter. */
export function stepLetters(steps: readonly Pick<ApprovalStep, 'beside'>[]): string[] {
  let round = 0;
  return steps.map(({ beside }, i) => {
    if (i > 0 && beside !== true) round++;
    return rowLetter(round).toUpperCase();
  });
}

/** How many of them must approve: “any”, “all”, “at least 2”. */
export const decideWords = (decide: ApprovalStep['decide']): string =>
  decide === undefined ? speak`any` : decide === 'all' ? speak`all` : speak`at least ${decide}`;

/** Which rows of a table of rules counted: “Spending limits, row 2”. */
export function rulesWords({ id, label, rows }: RuleTable, ruled: Ruled): string {
  const which = rows.flatMap((row, i) => (ruled[id]?.includes(row.id) === true ? [i + 1] : []));
  if (which.length === 0) return speak`${label} does not say`;
  return `${label}, ${which.length === 1 ? speak`row` : speak`rows`} ${which.join(', ')}`;
}

/** Why somebody is asked whom the step does not name; `group` is what the group is called. */
export function whyAskedWords(why: Why, group: string): string {
  switch (why) {
    case 'named':
      return speak`named in the answers`;
    case 'role':
      return speak`in ${group}, at the place in the answers`;
    case 'group':
      return speak`in ${group}`;
    case 'manager':
      return speak`the sender’s manager`;
    case 'above':
      return speak`above the sender`;
    case 'fallback':
      return speak`because nobody else could be asked`;
  }
}
