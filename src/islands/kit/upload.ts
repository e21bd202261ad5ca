import type { Problem } from '../../contract/answers-from-server';
import type { FileFacts } from '../../core/form/file';
import { limits } from '../../core/limits';
import { call, Refused, Unreachable } from './call';
import { fileAddress } from './way-in';

/** A file as it is brought. */
export interface Ready {
  readonly name: string;
  readonly bytes: Blob;
}

/** Which question a file answers. */
export interface Answering {
  readonly form: string;
  readonly question: string;
  readonly submission: string | null;
}

/** Photos of a telephone have more than anybody looks at; what is smaller than this is sent as it is. */
const LARGE_PHOTO = 1_500_000;
const LONGEST_SIDE = 2_560;
/** Pieces on the line at once: while one is being kept, the next is coming. */
const AT_ONCE = 3;
/** Seconds between tries while there is no connection, and the last of them on and on until it is given up. */
const WAITS = [1, 2, 4, 8, 15, 30];
const MOST_TRIES = 40;
/** A fault of the server is tried again too, but not for long: it may be no accident. */
const MOST_FAULTS = 6;
/** Milliseconds after which a request is taken for lost: a process that ended may have had it. */
const LOST_AFTER = 120_000;

/**
 * Brings a file in pieces, each tried again while the connection is away, so that what has arrived need not
 * come twice, also from an earlier visit to the page. `on` hears how much of it has. Throws `Refused` with
 * the words of a refusal, and the reason of `signal` once that is cancelled.
 */
export async function upload(
  id: string,
  { name, bytes }: Ready,
  answering: Answering,
  on: (part: number) => void,
  signal: AbortSignal,
): Promise<FileFacts> {
  const { size } = bytes;
  const { come } = await insisting(signal, (one) =>
    refusing(
      call<{ come: readonly number[] }>(
        'PUT',
        fileAddress(id),
        { ...answering, name, size },
        { signal: one },
      ),
    ),
  );
  const pieces = Array.from({ length: Math.ceil(size / limits.pieceBytes) }, (_, i) => i);
  const left = pieces.filter((piece) => !come.includes(piece));
  let arrived = pieces.length - left.length;
  const bring = async (): Promise<void> => {
    for (let piece = left.shift(); piece !== undefined; piece = left.shift()) {
      await bringPiece(id, piece, bytes, signal);
      on(++arrived / pieces.length);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, bring));
  return insisting(signal, (one) =>
    refusing(call<FileFacts>('POST', `${fileAddress(id)}/finish`, answering, { signal: one })),
  );
}

const bringPiece = (id: string, piece: number, bytes: Blob, signal: AbortSignal): Promise<unknown> =>
  insisting(signal, (one) =>
    refusing(
      call('PUT', `${fileAddress(id)}/pieces/${piece}`, undefined, {
        headers: { 'content-type': 'application/octet-stream' },
        body: bytes.slice(piece * limits.pieceBytes, (piece + 1) * limits.pieceBytes),
        signal: one,
      }),
    ),
  );

async function refusing<T>(answer: ReturnType<typeof call<T>>): Promise<T> {
  const result = await answer;
  if (result.ok) return result.value;
  throw new Refused(wordsOf(result.error));
}

const wordsOf = ({ issues, title }: Problem): string => issues?.[0]?.sentence ?? title;

/** Tries until there is an answer; a refusal is one. */
async function insisting<T>(signal: AbortSignal, ask: (signal: AbortSignal) => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++) {
    signal.throwIfAborted();
    try {
      return await ask(bounded(signal));
    } catch (error) {
      if (error instanceof Refused || signal.aborted || tries >= mostTries(error)) throw error;
      await waited(WAITS[Math.min(tries, WAITS.length - 1)] ?? 30, signal);
    }
  }
}

/** Older browsers know no way to put two reasons to stop together; there a lost request is waited for until the browser gives it up. */
const bounded = (signal: AbortSignal): AbortSignal =>
  'any' in AbortSignal ? AbortSignal.any([signal, AbortSignal.timeout(LOST_AFTER)]) : signal;

const mostTries = (error: unknown): number =>
  error instanceof TypeError || error instanceof Unreachable || error instanceof DOMException
    ? MOST_TRIES
    : MOST_FAULTS;

/** Some seconds, or until the connection is back. */
const waited = (seconds: number, signal: AbortSignal): Promise<void> =>
  new Promise((done) => {
    const end = () => {
      clearTimeout(timer);
      window.removeEventListener('online', end);
      signal.removeEventListener('abort', end);
      done();
    };
    const timer = setTimeout(end, seconds * 1_000);
    window.addEventListener('online', end);
    signal.addEventListener('abort', end);
  });

/** As it is to be brought: a large photo turned the right way up and made smaller, where this browser can; anything else as it is. */
export const madeReady = async (file: File): Promise<Ready> => ({
  name: file.name,
  bytes: await smaller(file),
});

async function smaller(file: File): Promise<Blob> {
  if (!/^image\/(jpeg|png|webp)$/.test(file.type) || file.size < LARGE_PHOTO) return file;
  try {
    const picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
    const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale));
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    // What may be see-through stays so.
    const type = file.type === 'image/jpeg' ? 'image/jpeg' : 'image/webp';
    const made = await canvas.convertToBlob({ type, quality: 0.86 });
    return made.size < file.size ? made : file;
  } catch {
    return file;
  }
}
