import { useCallback, useRef } from 'react';
import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { foundProof } from '../../core/outside/proof';

/** Tries between two breaths of the page: a few milliseconds of a telephone. */
const AT_ONCE = 2_000;
const hash = (text: string): Uint8Array => sha256(utf8ToBytes(text));

/** Looks for the proof of a submission, and keeps it for when it is sent again. */
export function useProof(link: string): (submission: string) => Promise<number> {
  const known = useRef(new Map<string, Promise<number>>());
  return useCallback(
    (submission) => {
      const found = known.current.get(submission) ?? sought(link, submission);
      known.current.set(submission, found);
      return found;
    },
    [link],
  );
}

async function sought(link: string, submission: string): Promise<number> {
  for (let from = 0; ; from += AT_ONCE) {
    const found = foundProof(hash, { link, submission }, from, AT_ONCE);
    if (found !== null) return found;
    await new Promise((resolve) => setTimeout(resolve));
  }
}
