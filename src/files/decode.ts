import { isUtf8 } from 'node:buffer';
import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/**
 * The encoding of a text file: by its mark; else UTF-16 when every other byte is empty; else UTF-8 when all of it is well formed, for other
 * texts almost never are; else Windows-1252. The whole file is looked through, at some gigabytes a second.
 */
export async function encodingOf(path: string): Promise<Encoding> {
  const head = await firstBytes(path, 4_096);
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  const [even, odd] = [0, 1].map((start) => head.filter((byte, i) => i % 2 === start && byte === 0).length);
  if (head.length >= 4 && (odd ?? 0) > head.length / 4 && (even ?? 0) === 0) return 'utf-16le';
  if (head.length >= 4 && (even ?? 0) > head.length / 4 && (odd ?? 0) === 0) return 'utf-16be';
  return (await isAllUtf8(path)) ? 'utf-8' : 'windows-1252';
}

async function firstBytes(path: string, size: number): Promise<Buffer> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(size), 0, size, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

async function isAllUtf8(path: string): Promise<boolean> {
  let rest = Buffer.alloc(0);
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 })) {
    const all = rest.length === 0 ? (chunk as Buffer) : Buffer.concat([rest, chunk as Buffer]);
    const end = lastWhole(all);
    if (!isUtf8(all.subarray(0, end))) return false;
    rest = Buffer.from(all.subarray(end));
  }
  return rest.length === 0;
}

/** Where the last character that may go on in the next piece begins. */
function lastWhole(bytes: Buffer): number {
  for (let back = 1; back <= Math.min(4, bytes.length); back++) {
    const byte = bytes[bytes.length - back] ?? 0;
    if (byte < 0x80) return bytes.length;
    if (byte >= 0xc0)
      return byte >= (back < 2 ? 0xc0 : back < 3 ? 0xe0 : back < 4 ? 0xf0 : 0xff)
        ? bytes.length - back
        : bytes.length;
  }
  return bytes.length;
}

/** How much is read at once, and how much may stand before it of what was left. */
const [PIECE, BEFORE] = [1 << 20, 1 << 16];

/**
 * The file's text as UTF-8, in pieces that may end within a letter, without a mark at its beginning. Each
 * piece begins with what was left of the one before, `rest`, and holds until the next is asked for. The next
 * is read meanwhile; two rooms serve the whole file, for a new one for each megabyte would keep the engine
 * busy clearing them away.
 */
export async function* utf8Pieces(
  path: string,
  encoding: Encoding,
  rest: () => Buffer,
  signal?: AbortSignal,
): AsyncGenerator<Buffer> {
  const decoder = encoding === 'utf-8' ? null : new TextDecoder(encoding);
  const file = await open(path);
  let [room, other] = [Buffer.allocUnsafeSlow(BEFORE + PIECE), Buffer.allocUnsafeSlow(BEFORE + PIECE)];
  let reading = file.read(room, BEFORE, PIECE);
  try {
    for (let first = true; ; first = false) {
      const { bytesRead } = await reading;
      signal?.throwIfAborted();
      const left = rest();
      const piece = begunWith(left, room, bytesRead, decoder);
      // What was left has been copied, so nothing of the other room is wanted any more.
      reading = file.read(other, BEFORE, PIECE);
      // Whoever stops early does not wait for it.
      reading.catch(() => undefined);
      if (piece.length > left.length)
        yield first && piece.subarray(0, 3).equals(MARK) ? piece.subarray(3) : piece;
      if (bytesRead === 0) return;
      [room, other] = [other, room];
    }
  } finally {
    await reading.catch(() => undefined);
    await file.close();
  }
}

/** What was left, and then what was read into a room. */
function begunWith(left: Buffer, room: Buffer, read: number, decoder: TextDecoder | null): Buffer {
  const fresh = room.subarray(BEFORE, BEFORE + read);
  if (decoder !== null)
    return Buffer.concat([left, Buffer.from(decoder.decode(fresh, { stream: read > 0 }))]);
  if (left.length > BEFORE) return Buffer.concat([left, fresh]);
  left.copy(room, BEFORE - left.length);
  return room.subarray(BEFORE - left.length, BEFORE + read);
}
const MARK = Buffer.from([0xef, 0xbb, 0xbf]);
