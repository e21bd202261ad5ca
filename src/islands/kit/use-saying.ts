import { useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import type { Result } from '../../core/kernel/result';
import { speak } from '../../core/wording/speak';

export interface Saying {
  readonly busy: boolean;
  readonly words: string;
  readonly wrong: boolean;
  /** The field it is about, if it is about one. */
  readonly at: string;
}

const quiet: Saying = { busy: false, words: '', wrong: false, at: '' };

/** Asks the server for something and says what came of it, beside what was pressed. */
export function useSaying() {
  const [saying, setSaying] = useState<Saying>(quiet);
  const say = async (
    ask: () => Promise<Result<unknown, Problem>>,
    well: string,
    done: () => void,
  ): Promise<void> => {
    setSaying({ ...quiet, busy: true });
    const result = await ask().catch(() => null);
    if (result === null)
      return setSaying({
        ...quiet,
        words: speak`The server cannot be reached; nothing was changed`,
        wrong: true,
      });
    if (result.ok) {
      setSaying({ ...quiet, words: well });
      return done();
    }
    const [issue] = result.error.issues ?? [];
    setSaying({
      ...quiet,
      words: issue?.sentence ?? result.error.title,
      wrong: true,
      at: String(issue?.path[0] ?? ''),
    });
  };
  return { saying, say };
}
