import { fileTypeFromBuffer } from 'file-type';
import sharp from 'sharp';
import { isPhoto } from '../core/form/file';

/** A photo made ready to be kept. */
export interface MadeReady {
  readonly type: string;
  readonly bytes: Buffer;
  readonly width: number | null;
  readonly height: number | null;
  /** WebP; null for what is no photo. */
  readonly thumb: Buffer | null;
}

/** The longest side of a small picture, for a screen of twice the usual density. */
const THUMB = 360;
/** Hardly a telephone takes more; a picture of a few bytes may claim any number. */
const MOST_PIXELS = 60_000_000;
/** The longest side of a picture in a text. */
const TEXT_SIDE = 1_400;
/** The band is 46 pixels high; screens have up to three for each. */
const BAND = { width: 480, height: 96 };
/** Longer sides show nothing more on a screen, and little more on paper. */
const LONGEST_SIDE = 4_096;

/** What the content of a file says it is, whatever it is called; empty where it says nothing that is known. */
export async function typeOf(bytes: Buffer): Promise<string> {
  const found = await fileTypeFromBuffer(bytes);
  if (found !== undefined) return found.mime;
  return isPlainText(bytes) ? 'text/plain' : '';
}

/**
 * UTF-8 without control characters but those of lines and tabs. What begins as a page would is none: some
 * programs would show it as that.
 */
function isPlainText(bytes: Buffer): boolean {
  if (bytes.length === 0) return false;
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    // oxlint-disable-next-line no-control-regex
    return !/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/.test(text) && !/^\s*<[!a-z?]/i.test(text);
  } catch {
    return false;
  }
}

/**
 * A photo turned the right way up and written anew, so that nothing else is in it: where it was taken, by
 * which telephone, or what somebody hid behind it. Null for what cannot be read. What is no photo is kept as
 * it is.
 */
export async function madeReady(type: string, bytes: Buffer): Promise<MadeReady | null> {
  if (!isPhoto(type)) return { type, bytes, width: null, height: null, thumb: null };
  const made = turn.then(() => drawn(type, bytes));
  turn = made;
  return made;
}

/** A picture for a text: as wide as a sheet at most, on a screen of twice the usual density. Null for what cannot be read. */
export const drawnForText = (bytes: Buffer): Promise<Buffer | null> =>
  drawnWithin(bytes, { width: TEXT_SIDE, height: TEXT_SIDE });

/** The sign of the organisation, for the band at the top. Null for what cannot be read. */
export const drawnForBand = (bytes: Buffer): Promise<Buffer | null> => drawnWithin(bytes, BAND);

async function drawnWithin(
  bytes: Buffer,
  most: { readonly width: number; readonly height: number },
): Promise<Buffer | null> {
  const made = turn.then(() =>
    sharp(bytes, { limitInputPixels: MOST_PIXELS, animated: false })
      .autoOrient()
      .resize({ ...most, fit: 'inside', withoutEnlargement: true })
      .webp({ quality: 80 })
      .toBuffer()
      .catch(() => null),
  );
  turn = made;
  return made;
}

/** One at a time in each process: a large photo takes some 200 MB while it is read. */
let turn: Promise<unknown> = Promise.resolve();

/** Never fails: what cannot be read is null. */
async function drawn(type: string, bytes: Buffer): Promise<MadeReady | null> {
  const read = () => sharp(bytes, { limitInputPixels: MOST_PIXELS, animated: false }).autoOrient();
  try {
    const size = {
      width: LONGEST_SIDE,
      height: LONGEST_SIDE,
      fit: 'inside',
      withoutEnlargement: true,
    } as const;
    const kept = read().resize(size);
    // A picture of few frames and colours is as well kept as PNG.
    const written =
      type === 'image/jpeg' ? kept.jpeg({ quality: 88 }) : type === 'image/webp' ? kept.webp() : kept.png();
    const { data, info } = await written.toBuffer({ resolveWithObject: true });
    const thumb = await read()
      .resize({ width: THUMB, height: THUMB, fit: 'inside', withoutEnlargement: true })
      .webp({ quality: 75 })
      .toBuffer();
    return {
      type: type === 'image/gif' ? 'image/png' : type,
      bytes: data,
      width: info.width,
      height: info.height,
      thumb,
    };
  } catch {
    return null;
  }
}
