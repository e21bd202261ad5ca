import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { bedInspection } from '../../demo/forms';
import { personNamed } from '../../demo/people';
import type { Answers } from '../../src/core/form/answers';
import type { FormDesign } from '../../src/core/form/design';
import { ok } from '../../src/core/kernel/result';
import { limits } from '../../src/core/limits';
import { prune } from '../../src/data/system/prune';
import { asOwner } from '../../src/data/transaction';
import { announceFile, bringFilePiece, finishFile } from '../../src/use-cases/files/bring-file';
import { describeFiles, openFile, openThumb } from '../../src/use-cases/files/open-file';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import {
  as,
  draft,
  formIds,
  inspectionAnswers,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  sent,
  useWorld,
} from '../support/world';

/** Photos from the hand that brings them to the record that keeps them, and who sees them on the way. */
let bed = '';
const world = useWorld(async (made) => {
  bed = (await plantGarden(made)).bed;
  await releaseSampleForms();
});
const question = { form: formIds.inspection, question: 'qbiphotos', submission: null };
const photo = (width = 40): Promise<Buffer> =>
  sharp({ create: { width, height: 30, channels: 3, background: '#4d7f3a' } })
    .jpeg()
    .toBuffer();

async function brought(name: string, bytes: Buffer, answering = question): Promise<string> {
  const id = newId();
  await must(announceFile(as(name), id, { ...answering, name: 'leaf.jpg', size: bytes.length }));
  for (let piece = 0; piece * limits.pieceBytes < bytes.length; piece++)
    await must(
      bringFilePiece(
        as(name),
        id,
        piece,
        bytes.subarray(piece * limits.pieceBytes, (piece + 1) * limits.pieceBytes),
      ),
    );
  await must(finishFile(as(name), id, answering));
  return id;
}
const inspection = (photos: string): Answers => inspectionAnswers(bed, { qbiphotos: photos });
const sees = async (name: string, id: string): Promise<boolean> => (await openFile(as(name), id)).ok;
const seeInspections = (name: string) =>
  world.sql(
    `INSERT INTO slate.access_grant (table_id, person_id, action) VALUES ($1, $2, 'see') ON CONFLICT DO NOTHING`,
    [bedInspection.table.id, personNamed(name).id],
  );

describe('a file', () => {
  it('comes in pieces in any order, some of them twice, and is whole when all are there', async () => {
    const bytes = await sharp(
      Buffer.alloc(1_300 * 1_300 * 3, 7).map((_, i) => (i * 2_654_435_761) >>> 24),
      {
        raw: { width: 1_300, height: 1_300, channels: 3 },
      },
    )
      .png({ compressionLevel: 0 })
      .toBuffer();
    expect(bytes.length).toBeGreaterThan(3 * limits.pieceBytes);
    const id = newId();
    const piece = (n: number) =>
      bringFilePiece(as('Maren'), id, n, bytes.subarray(n * limits.pieceBytes, (n + 1) * limits.pieceBytes));
    await must(announceFile(as('Maren'), id, { ...question, name: '../a\u202eb.png', size: bytes.length }));
    for (const n of [4, 1, 1, 0, 3]) await must(piece(n));
    expect(await refusal(finishFile(as('Maren'), id, question))).toMatchObject({ kind: 'invalid' });
    await must(piece(2));
    const facts = await must(finishFile(as('Maren'), id, question));
    expect(facts).toMatchObject({ name: 'ab.png', type: 'image/png', hasThumb: true });
    // Answers that were lost on their way are asked for again.
    expect(await must(finishFile(as('Maren'), id, question))).toEqual(facts);
    await must(piece(0));
    const { body, size, inline } = await must(openFile(as('Maren'), id));
    const pieces: Uint8Array[] = [];
    for await (const one of body) pieces.push(one);
    const kept = Buffer.concat(pieces);
    expect([kept.length, inline]).toEqual([size, true]);
    expect((await sharp(kept).metadata()).width).toBe(1_300);
    expect((await must(openThumb(as('Maren'), id))).type).toBe('image/webp');
  });

  it('is refused where it is too large, is no photo, or asks for nothing that somebody may answer', async () => {
    const announce = (name: string, more: object) =>
      announceFile(as(name), newId(), { ...question, name: 'x', size: 10, ...more });
    expect(await refusal(announce('Maren', { size: limits.fileBytes + 1 }))).toMatchObject({
      kind: 'too-large',
    });
    for (const more of [{ question: 'qbinotes' }, { question: 'nothing' }, { form: newId() }])
      expect(await refusal(announce('Maren', more))).toMatchObject({ kind: 'not-found' });
    const html = Buffer.from('<html><script>alert(1)</script></html>');
    const id = newId();
    await must(announceFile(as('Maren'), id, { ...question, name: 'leaf.jpg', size: html.length }));
    expect(await refusal(bringFilePiece(as('Maren'), id, 0, Buffer.alloc(html.length + 1)))).toMatchObject({
      kind: 'invalid',
    });
    await must(bringFilePiece(as('Maren'), id, 0, html));
    expect(await refusal(finishFile(as('Maren'), id, question))).toMatchObject({
      issues: [{ code: 'not-a-photo' }],
    });
    // Nobody else brings anything to it, or sees that it is there.
    for (const asked of [
      bringFilePiece(as('Ada'), id, 0, html),
      finishFile(as('Ada'), id, question),
      openFile(as('Ada'), id),
    ])
      expect(await refusal(asked)).toMatchObject({ kind: 'not-found' });
    expect(await refusal(announceFile(as('Ada'), id, { ...question, name: 'x', size: 1 }))).toMatchObject({
      kind: 'not-found',
    });
  });

  it('is its maker’s alone until it is sent, and then is seen by those who see the record it is kept in', async () => {
    const id = await brought('Maren', await photo());
    expect([await sees('Maren', id), await sees('Ada', id), await sees('Wren', id)]).toEqual([
      true,
      false,
      false,
    ]);
    await sent('Maren', formIds.inspection, inspection(`{${id}}`));
    expect(await world.sql('SELECT photos FROM records.inspections')).toEqual([{ photos: [id] }]);
    expect([await sees('Maren', id), await sees('Ada', id)]).toEqual([true, false]);
    await seeInspections('Ada');
    expect(await sees('Ada', id)).toBe(true);
    expect((await must(describeFiles(as('Osei'), [id]))).files).toEqual([]);
  });

  it('goes with one submission, kept in one record: nobody’s file gets anywhere by its id', async () => {
    const mine = await brought('Maren', await photo());
    const refused = async (name: string, photos: string) => {
      const { id, version } = await draft(name, formIds.inspection, inspection(photos));
      return refusal(sendSubmission(as(name), id, { key: newId(), version }));
    };
    const gone = { kind: 'invalid', issues: [{ code: 'file-gone', path: ['qbiphotos'] }] };
    expect(await refused('Osei', `{${mine}}`)).toMatchObject(gone);
    expect(await refused('Osei', `{${newId()}}`)).toMatchObject(gone);
    expect(await sees('Osei', mine)).toBe(false);
    await sent('Maren', formIds.inspection, inspection(`{${mine}}`));
    expect(await refused('Maren', `{${mine}}`)).toMatchObject(gone);
    expect(await refused('Maren', `{${Array.from({ length: 7 }, newId).join()}}`)).toMatchObject({
      issues: [{ code: 'too-many-files' }],
    });
    // Nor through the table: what may be changed there is given files that are its own already.
    const [row] = await world.sql(
      `SELECT id, version, photos::text FROM records.inspections WHERE photos = ARRAY[$1]::uuid[]`,
      [mine],
    );
    for (const action of ['see', 'change'])
      await world.sql(`INSERT INTO slate.access_grant (table_id, person_id, action) VALUES ($1, $2, $3)`, [
        bedInspection.table.id,
        personNamed('Kofi').id,
        action,
      ]);
    const others = await brought('Maren', await photo());
    const change = (photos: string) =>
      saveEdits(as('Kofi'), {
        key: newId(),
        edits: [
          {
            t: 'change',
            table: bedInspection.table.id,
            id: String(row?.['id']),
            version: Number(row?.['version']),
            before: { qbiphotos: String(row?.['photos']) },
            values: { qbiphotos: photos },
          },
        ],
      });
    expect(await refusal(change(`{${mine},${others}}`))).toMatchObject({ issues: [{ code: 'file-gone' }] });
  });

  it('is seen by whoever is asked to decide, and by nobody whom it does not concern', async () => {
    const design: FormDesign = {
      ...bedInspection,
      title: 'Checked inspection',
      steps: [{ id: 'qstep', label: 'A look', people: [personNamed('Tomasz').id] }],
    };
    const { insertForm } = await import('../../src/data/system/forms');
    const { releaseForm } = await import('../../src/use-cases/forms/release-form');
    const form = newId();
    await must(
      asOwner({ person: personNamed('Ines').id }, async (tx) =>
        ok(
          await insertForm(tx, {
            id: form,
            key: 'checked_inspection',
            design: {
              ...design,
              table: { ...design.table, id: newId(), key: 'checked', label: 'Checked', prefix: 'CI' },
            },
            ownerId: personNamed('Ines').id,
            editedBy: personNamed('Ines').id,
          }),
        ),
      ),
    );
    await must(releaseForm(as('Ines'), form, { version: 1, fill: 'everybody' }));
    const id = await brought('Maren', await photo(), { ...question, form });
    const { id: submission, version } = await sent('Maren', form, inspection(`{${id}}`));
    expect([await sees('Tomasz', id), await sees('Ada', id)]).toEqual([true, false]);
    await must(
      decideSubmission(as('Tomasz'), submission, { key: newId(), version, decision: 'approve', word: '' }),
    );
    expect(await world.sql('SELECT photos FROM records.checked')).toEqual([{ photos: [id] }]);
    expect(await sees('Maren', id)).toBe(true);
  });

  it('goes by night where it was never sent, unless a draft still names it', async () => {
    const [kept, left] = [await brought('Ruo', await photo()), await brought('Ruo', await photo())];
    await draft('Ruo', formIds.inspection, inspection(`{${kept}}`));
    const later = new Date(Date.now() + (limits.fileDays + 1) * 86_400_000);
    await must(asOwner({ person: personNamed('Ines').id }, async (tx) => ok(await prune(tx, later))));
    expect([await sees('Ruo', kept), await sees('Ruo', left)]).toEqual([true, false]);
    // And with the record it is kept in, once that is gone for good.
    const there = async () =>
      (await world.sql('SELECT id FROM slate.file WHERE record_id IS NOT NULL')).length;
    const before = await there();
    await world.sql('DELETE FROM records.checked');
    await must(asOwner({ person: personNamed('Ines').id }, async (tx) => ok(await prune(tx, new Date()))));
    expect([before > 1, await there()]).toEqual([true, before - 1]);
  });
});
