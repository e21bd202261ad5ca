import { Transform, type TransformCallback } from 'node:stream';

/** The bytes of a text that begin a character at its end and do not end it: 0 to 3. */
function begunAtEnd(bytes: Buffer): number {
  for (let back = 1; back <= Math.min(3, bytes.length); back++) {
    const byte = bytes[bytes.length - back] as number;
    if (byte < 0x80) return 0;
    if (byte < 0xc0) continue;
    const needed = byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2;
    return needed > back ? back : 0;
  }
  return 0;
}

/** Hands pieces of UTF-8 on so that none ends within a character: for readers that take each piece for a text by itself. */
export class WholeCharacters extends Transform {
  private left: Buffer = Buffer.alloc(0);

  override _transform(chunk: Buffer, _: BufferEncoding, done: TransformCallback): void {
    const all = this.left.length === 0 ? chunk : Buffer.concat([this.left, chunk]);
    const whole = all.length - begunAtEnd(all);
    this.left = Buffer.from(all.subarray(whole));
    done(null, whole === 0 ? undefined : all.subarray(0, whole));
  }

  override _flush(done: TransformCallback): void {
    done(null, this.left.length === 0 ? undefined : this.left);
  }
}
