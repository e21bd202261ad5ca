import type { IncomingMessage } from 'node:http';
import { fail, ok, type Result } from '../core/kernel/result';
import { sourceFault, type SourceAddress, type SourceFault } from '../core/link/source';
import { pinnedRequest } from './pinned-request';
import { reachable } from './reach';

/** How long an address may take, in milliseconds, and how much it may answer. */
const [PATIENCE, MOST_MB] = [15_000, 20];

/**
 * Asks a JSON address for its list. It is not followed elsewhere, for its secret would go with it, and what
 * is more than 20 MB is not read to its end.
 */
export async function fetchList(
  { url, header }: Extract<SourceAddress, { t: 'list' }>,
  secret: string,
): Promise<Result<unknown, SourceFault>> {
  const at = await reachable(new URL(url).hostname);
  if (at === 'inside') return fail(sourceFault('inside'));
  if (at === null) return fail(sourceFault('no-answer'));
  try {
    const answer = await pinnedRequest(url, at, {
      method: 'GET',
      headers: {
        accept: 'application/json',
        ...(header !== '' && secret !== '' && { [header]: secret }),
      },
      patience: PATIENCE,
    });
    const status = answer.statusCode ?? 0;
    if (status < 200 || status > 299) answer.resume();
    if (status === 401 || status === 403) return fail(sourceFault('sign-in-refused'));
    if (status === 404 || status === 410) return fail(sourceFault('not-there'));
    if (status < 200 || status > 299) return fail(sourceFault('answer-wrong', { status }));
    const text = await boundedText(answer);
    return text === null ? fail(sourceFault('too-large', { most: MOST_MB })) : parsed(text);
  } catch {
    return fail(sourceFault('no-answer'));
  }
}

async function boundedText(answer: IncomingMessage): Promise<string | null> {
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of answer as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes > MOST_MB * 1024 * 1024) {
      answer.destroy();
      return null;
    }
    pieces.push(piece);
  }
  return new TextDecoder().decode(Buffer.concat(pieces));
}

function parsed(text: string): Result<unknown, SourceFault> {
  try {
    return ok(JSON.parse(text) as unknown);
  } catch {
    return fail(sourceFault('no-json'));
  }
}
