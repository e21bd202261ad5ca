import { fail } from '../../core/kernel/result';
import { Unreachable } from '../kit/call';
import { speak } from '../../core/wording/speak';

/** What is said where no answer came. */
export const notReached = (error: unknown) =>
  fail({
    title:
      error instanceof Unreachable
        ? error.message
        : speak`The server cannot be reached. Try again in a moment`,
  });
