import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { takeIn } from '../../src/contract/form-file';
import type { FormFile } from '../../src/core/form/form-file';
import { createForm } from '../../src/use-cases/forms/create-form';
import { addPicture, openPicture, openPictureToAll } from '../../src/use-cases/forms/pictures';
import { takeFormIn, takeFormOut } from '../../src/use-cases/forms/take-form';
import { dropLogo, keepLogo } from '../../src/use-cases/workspace/logo';
import { house } from '../../src/use-cases/workspace/read-workspace';
import { as, formIds, must, newId, refusal, releaseSampleForms, useWorld } from '../support/world';

const world = useWorld(releaseSampleForms);
const photo = (width: number) =>
  sharp({ create: { width, height: 40, channels: 3, background: '#2f6b4f' } })
    .withExif({ IFD3: { GPSLatitude: '51/1 3/1 0/1' } })
    .jpeg()
    .toBuffer();

async function bytesOf(name: string, id: string): Promise<Buffer> {
  const { body } = await must(openPicture(as(name), id));
  const parts: Uint8Array[] = [];
  for await (const part of body) parts.push(part);
  return Buffer.concat(parts);
}

describe('pictures in the texts of a form', () => {
  const id = newId();

  it('are brought by those who design it, drawn anew and small, and seen by those who fill it', async () => {
    await must(addPicture(as('Ines'), formIds.treatment, id, await photo(3_000)));
    const meta = await sharp(await bytesOf('Maren', id)).metadata();
    expect([meta.format, meta.width, meta.exif]).toEqual(['webp', 1_400, undefined]);
    expect(await refusal(addPicture(as('Maren'), formIds.treatment, newId(), await photo(10)))).toMatchObject(
      { kind: 'forbidden' },
    );
  });

  it('are seen by nobody who has nothing to do with the form', async () => {
    await world.sql(`DELETE FROM slate.access_grant WHERE form_id = $1 AND action = 'fill'`, [
      formIds.treatment,
    ]);
    expect(await refusal(openPicture(as('Maren'), id))).toMatchObject({ kind: 'not-found' });
    expect(await bytesOf('Ines', id)).toBeInstanceOf(Buffer);
  });

  it('go along into a form that is made like it', async () => {
    const copy = newId();
    await must(createForm(as('Ines'), { id: copy, title: 'Another one', like: formIds.treatment }));
    const rows = await world.sql('SELECT form_id FROM slate.form_picture WHERE id = $1', [id]);
    expect(rows.map(({ form_id }) => form_id).sort()).toEqual([copy, formIds.treatment].sort());
  });

  it('go along in a file, and are drawn anew where it is taken in', async () => {
    const file = JSON.parse(
      JSON.stringify(await must(takeFormOut(as('Ines'), formIds.treatment))),
    ) as FormFile;
    const take = (pictures: FormFile['pictures']) => {
      const body = takeIn.parse({ id: newId(), file: { ...file, pictures } });
      return [body.id, takeFormIn(as('Ines'), body)] as const;
    };
    const [taken, made] = take(file.pictures);
    await must(made);
    const rows = await world.sql('SELECT id FROM slate.form_picture WHERE form_id = $1', [taken]);
    expect(rows).toEqual([{ id }]);
    const [refused, spoilt] = take([{ id: newId(), bytes: Buffer.from('<svg/>').toString('base64') }]);
    expect(await refusal(spoilt)).toMatchObject({
      issues: [{ code: 'not-a-photo', path: ['file', 'pictures', '0'] }],
    });
    expect(await world.sql('SELECT id FROM slate.form WHERE id = $1', [refused])).toEqual([]);
  });

  it('are pictures by their content, not by what is said of them', async () => {
    const say = async (bytes: Buffer) => refusal(addPicture(as('Ines'), formIds.treatment, newId(), bytes));
    expect(await say(Buffer.from('<svg onload="x()"/>'))).toMatchObject({
      issues: [{ code: 'not-a-photo' }],
    });
    expect(await say((await photo(50)).subarray(0, 60))).toMatchObject({ issues: [{ code: 'file-broken' }] });
  });
});

describe('the logo of the workspace', () => {
  it('is brought by administrators, drawn anew and small, and seen by everybody under its own id', async () => {
    const { logo } = await must(keepLogo(as('Wren'), await photo(3_000)));
    const shown = async (): Promise<Buffer> => {
      const parts: Uint8Array[] = [];
      for await (const part of (await must(openPictureToAll(logo))).body) parts.push(part);
      return Buffer.concat(parts);
    };
    const before = await shown();
    const meta = await sharp(before).metadata();
    expect([meta.format, meta.width, meta.exif]).toEqual(['webp', 480, undefined]);
    expect((await house()).logo).toBe(`/api/pictures/${logo}`);
    // A picture of a form under its id is not shown instead.
    await must(addPicture(as('Ines'), formIds.treatment, logo, await photo(20)));
    expect((await shown()).equals(before)).toBe(true);
    expect((await refusal(keepLogo(as('Ines'), await photo(20)))).kind).toBe('forbidden');
    expect((await refusal(dropLogo(as('Ines')))).kind).toBe('forbidden');
    expect(await refusal(keepLogo(as('Wren'), Buffer.from('<svg xmlns="x"/>')))).toMatchObject({
      issues: [{ code: 'not-a-photo' }],
    });
    expect((await house()).logo).toBe(`/api/pictures/${logo}`);
  });

  it('is another one, or none, from one moment to the next, and the trail says so', async () => {
    const was = (await house()).logo?.split('/').pop() ?? '';
    const { logo } = await must(keepLogo(as('Wren'), await photo(50)));
    expect(logo).not.toBe(was);
    await must(dropLogo(as('Wren')));
    expect((await house()).logo).toBeNull();
    expect((await refusal(openPictureToAll(logo))).kind).toBe('not-found');
    const lines = await world.sql(`SELECT changed FROM slate.trail WHERE subject = 'workspace' ORDER BY id`);
    expect(lines.map((line) => line['changed'])).toEqual([
      { logo_id: 'secret' },
      { logo_id: 'secret' },
      { logo_id: 'secret' },
    ]);
  });
});
