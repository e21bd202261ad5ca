import type { Answers } from '../form/answers';

/** Why something that was sent wants a look of its own before it is decided. */
export type Unusual = 'reasons' | 'sent-again' | 'change' | 'said';

interface Sent {
  readonly answers: Answers;
  /** Whether it was sent before, and came back. */
  readonly sentBefore: boolean;
  /** Whether it changes a record that is there. */
  readonly changes: boolean;
  /** Whether somebody said something that nobody has answered. */
  readonly said: boolean;
}

/** A check asked for a reason, it was sent back before, it changes what is there, or somebody asks something. What is none of these may be approved with others. */
export const unusualOf = ({ answers, sentBefore, changes, said }: Sent): Unusual[] => [
  ...(Object.values(answers.reasons).some((reason) => reason.trim() !== '') ? (['reasons'] as const) : []),
  ...(sentBefore ? (['sent-again'] as const) : []),
  ...(changes ? (['change'] as const) : []),
  ...(said ? (['said'] as const) : []),
];
