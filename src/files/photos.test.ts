import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { madeReady, typeOf } from './photos';

const plain = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#4d7f3a' } });

describe('the content of a file', () => {
  it('says what it is, whatever it is called', async () => {
    expect(await typeOf(await plain(8, 8).png().toBuffer())).toBe('image/png');
    expect(await typeOf(await plain(8, 8).jpeg().toBuffer())).toBe('image/jpeg');
    expect(await typeOf(Buffer.from('%PDF-1.7\n%âãÏÓ'))).toBe('application/pdf');
    expect(await typeOf(Buffer.from('Watered on Monday.\n\tTwice.'))).toBe('text/plain');
    expect(await typeOf(Buffer.from('<html><script>alert(1)</script>'))).toBe('');
    expect(await typeOf(Buffer.from('  <!doctype html>'))).toBe('');
    expect(await typeOf(Buffer.from('MZ\u0000\u0001'))).not.toBe('text/plain');
    expect(await typeOf(Buffer.from([0x61, 0xc3, 0x28]))).toBe('');
    expect(await typeOf(Buffer.alloc(0))).toBe('');
  });
});

describe('a photo', () => {
  it('is turned the right way up and written anew, without the place or anything hidden in it', async () => {
    const brought = Buffer.concat([
      await plain(40, 20)
        .withExif({ IFD0: { Copyright: 'SECRET-PLACE' }, IFD3: { GPSLatitudeRef: 'N' } })
        .withMetadata({ orientation: 6 })
        .jpeg()
        .toBuffer(),
      Buffer.from('<script>alert(1)</script>'),
    ]);
    const ready = await madeReady('image/jpeg', brought);
    expect([ready?.width, ready?.height, ready?.type]).toEqual([20, 40, 'image/jpeg']);
    const kept = await sharp(ready?.bytes).metadata();
    expect([kept.exif, kept.orientation]).toEqual([undefined, undefined]);
    expect(ready?.bytes.includes('SECRET-PLACE')).toBe(false);
    expect(ready?.bytes.includes('<script>')).toBe(false);
    expect((await sharp(ready?.thumb ?? undefined).metadata()).format).toBe('webp');
  });

  it('is kept no larger than anybody looks at', async () => {
    const ready = await madeReady('image/png', await plain(6_000, 100).png().toBuffer());
    expect(ready?.width).toBe(4_096);
    expect((await sharp(ready?.thumb ?? undefined).metadata()).width).toBe(360);
  });

  it('that cannot be read is none, and a document is kept as it is', async () => {
    const whole = await plain(64, 64).jpeg().toBuffer();
    expect(await madeReady('image/jpeg', whole.subarray(0, 60))).toBe(null);
    expect(await madeReady('image/png', Buffer.from('nothing'))).toBe(null);
    const pdf = Buffer.from('%PDF-1.7');
    expect(await madeReady('application/pdf', pdf)).toEqual({
      type: 'application/pdf',
      bytes: pdf,
      width: null,
      height: null,
      thumb: null,
    });
  });
});
