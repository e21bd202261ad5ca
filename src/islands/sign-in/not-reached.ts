import { fail } from '../../core/kernel/result';
import { Unreachable } from '../kit/call';

/** What is said where no answer came. */
export const notReached = (error: unknown) =>
  fail({
    title:
      error instanceof Unreachable ? error.message : 'The server cannot be reached. Try again in a moment',
  });
