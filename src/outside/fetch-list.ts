import { fail, ok, type Result } from '../core/kernel/result';
import { sourceFault, type SourceAddress, type SourceFault } from '../core/link/source';

/** How long an address may take, in milliseconds, and how much it may answer. */
const [PATIENCE, MOST_MB] = [15_000, 20];

/**
 * Asks a JSON address for its list. It is not followed elsewhere, for its secret would go with it, and what is more than 20 MB is not read to its end.
 */
export async function fetchList(
  { url, header }: Extract<SourceAddress, { t: 'list' }>,
  secret: string,
): Promise<Result<unknown, SourceFault>> {
  try {
    const answer = await fetch(url, {
      redirect: 'manual',
      signal: AbortSignal.timeout(PATIENCE),
      headers: { accept: 'application/json', ...(header !== '' && secret !== '' && { [header]: secret }) },
    });
    if (answer.status === 401 || answer.status === 403) return fail(sourceFault('sign-in-refused'));
    if (answer.status === 404 || answer.status === 410) return fail(sourceFault('not-there'));
    if (!answer.ok) return fail(sourceFault('answer-wrong', { status: answer.status }));
    const text = await boundedText(answer);
    return text === null ? fail(sourceFault('too-large', { most: MOST_MB })) : parsed(text);
  } catch {
    return fail(sourceFault('no-answer'));
  }
}

async function boundedText(answer: Response): Promise<string | null> {
  const decoder = new TextDecoder();
  let [text, bytes] = ['', 0];
  const reader = answer.body?.getReader();
  for (let next = await reader?.read(); next !== undefined && !next.done; next = await reader?.read()) {
    bytes += next.value.byteLength;
    if (bytes > MOST_MB * 1024 * 1024) {
      await reader?.cancel();
      return null;
    }
    text += decoder.decode(next.value, { stream: true });
  }
  return text + decoder.decode();
}

function parsed(text: string): Result<unknown, SourceFault> {
  try {
    return ok(JSON.parse(text) as unknown);
  } catch {
    return fail(sourceFault('no-json'));
  }
}
