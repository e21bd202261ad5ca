import type { ApprovalStep } from '../form/design';

/** Whom a step waits for: “Pell”, “any of Ada, Pell”, “all of Ada, Pell”, “at least 2 of Ada, Pell, Lee”. */
export function askedWords({ decide }: Pick<ApprovalStep, 'decide'>, names: readonly string[]): string {
  const [only = ''] = names;
  if (names.length < 2) return only;
  return `${decideWords(decide)} of ${names.join(', ')}`;
}

/** How many of them must approve: “any”, “all”, “at least 2”. */
export const decideWords = (decide: ApprovalStep['decide']): string =>
  decide === undefined ? 'any' : decide === 'all' ? 'all' : `at least ${decide}`;
