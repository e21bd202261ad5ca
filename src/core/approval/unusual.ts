import type { Digest } from './digest';
import type { Answers } from '../form/answers';

/** Why something that was sent wants a look of its own before it is decided. */
export type Unusual = 'reasons' | 'figures' | 'sent-again' | 'change' | 'said' | 'unread';

interface Sent {
  readonly answers: Answers;
  /** Whether it was sent before, and came back. */
  readonly sentBefore: boolean;
  /** Whether it changes a record that is there. */
  readonly changes: boolean;
  /** Whether somebody said something that nobody has answered. */
  readonly said: boolean;
  /** Null while it is not worked out how its figures lie. */
  readonly digest: Pick<Digest, 'beyond'> | null;
}

/**
 * A check asked for a reason, a figure lies far beyond the usual or it is not yet known whether one does, it
 * was sent back before, it changes what is there, or somebody asks something. What is none of these may be
 * approved with others.
 */
export const unusualOf = ({ answers, sentBefore, changes, said, digest }: Sent): Unusual[] => [
  ...(Object.values(answers.reasons).some((reason) => reason.trim() !== '') ? (['reasons'] as const) : []),
  ...(digest !== null && digest.beyond > 0 ? (['figures'] as const) : []),
  ...(sentBefore ? (['sent-again'] as const) : []),
  ...(changes ? (['change'] as const) : []),
  ...(said ? (['said'] as const) : []),
  ...(digest === null ? (['unread'] as const) : []),
];
