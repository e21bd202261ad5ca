import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ok } from '../../src/core/kernel/result';
import { limits } from '../../src/core/limits';
import { asOwner } from '../../src/data/transaction';
import { objectStore } from '../../src/outside/object-store';
import { announceFile, bringFilePiece, finishFile } from '../../src/use-cases/files/bring-file';
import { openFile } from '../../src/use-cases/files/open-file';
import { pruneOld } from '../../src/use-cases/workspace/prune-old';
import { objectStoreStandIn } from '../support/object-store';
import {
  as,
  formIds,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  useWorld,
} from '../support/world';

/** Files in a store beside the database, as whoever runs the machine may choose: their bytes there, their rights and their life here. */
const world = useWorld(async (made) => {
  await plantGarden(made);
  await releaseSampleForms();
});
const question = { form: formIds.inspection, question: 'qbiphotos', submission: null };
let store: Awaited<ReturnType<typeof objectStoreStandIn>>;
beforeAll(async () => {
  store = await objectStoreStandIn('garden', 'a secret');
  Object.assign(process.env, store.env);
});
afterAll(() => {
  for (const name of Object.keys(store.env)) process.env[name] = '';
  store.close();
});

/** A file of more than one piece. */
const bytes = Buffer.concat([Buffer.from('%PDF-1.7\n'), randomBytes(limits.pieceBytes + 100)]);
const photo = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
  'base64',
);
async function announced(of: Buffer): Promise<string> {
  const id = newId();
  await must(announceFile(as('Maren'), id, { ...question, name: 'bed.png', size: of.length }));
  for (let piece = 0; piece * limits.pieceBytes < of.length; piece++)
    await must(
      bringFilePiece(
        as('Maren'),
        id,
        piece,
        of.subarray(piece * limits.pieceBytes, (piece + 1) * limits.pieceBytes),
      ),
    );
  return id;
}
async function read(name: string, id: string): Promise<Buffer> {
  const { body } = await must(openFile(as(name), id));
  const pieces: Uint8Array[] = [];
  for await (const piece of body) pieces.push(piece);
  return Buffer.concat(pieces);
}

describe('a file in the store beside the database', () => {
  it('has its bytes there and none here, and is read by those who may alone', async () => {
    const id = await announced(photo);
    await must(finishFile(as('Maren'), id, question));
    expect([...store.objects.keys()]).toEqual([`/garden/${id}`]);
    expect(
      await world.sql(`SELECT count(*)::int AS n FROM slate.file_piece WHERE file_id = '${id}'`),
    ).toEqual([{ n: 0 }]);
    expect((await read('Maren', id)).equals(store.objects.get(`/garden/${id}`) ?? Buffer.of())).toBe(true);
    expect(await refusal(openFile(as('Kofi'), id))).toMatchObject({ kind: 'not-found' });
  });

  it('is not taken for kept while the store does not answer, and goes on once it does', async () => {
    const id = await announced(photo);
    store.fallSilent(true);
    await expect(finishFile(as('Maren'), id, question)).rejects.toThrow(
      'the store of files answered 503 to PUT',
    );
    expect(await world.sql(`SELECT state FROM slate.file WHERE id = '${id}'`)).toEqual([{ state: 'coming' }]);
    store.fallSilent(false);
    await must(finishFile(as('Maren'), id, question));
    expect(store.objects.has(`/garden/${id}`)).toBe(true);
  });

  it('leaves the store after it has left the database, also when the store was silent then', async () => {
    const before = store.objects.size;
    await asOwner({ person: '' }, async () =>
      ok(await world.sql(`UPDATE slate.file SET created_at = now() - interval '90 days'`)),
    );
    store.fallSilent(true);
    await expect(pruneOld()).rejects.toThrow('503');
    expect(store.objects.size).toBe(before);
    store.fallSilent(false);
    await pruneOld();
    expect(store.objects.size).toBe(0);
    expect(await world.sql('SELECT count(*)::int AS n FROM slate.file_gone')).toEqual([{ n: 0 }]);
  });

  it('is asked for as the protocol says: signed, whole, and null where nothing lies', async () => {
    const own = objectStore();
    await own?.put('many pieces', bytes);
    const found = (await own?.get('many pieces')) ?? [];
    const pieces: Uint8Array[] = [];
    for await (const piece of found) pieces.push(piece);
    expect(Buffer.concat(pieces).equals(bytes)).toBe(true);
    expect(await own?.get('nothing')).toBeNull();
    const stranger = objectStore({ ...store.env, SLATE_FILES_S3_SECRET: 'another' });
    await expect(stranger?.put('x', bytes)).rejects.toThrow('403');
    expect(objectStore({})).toBeNull();
  });
});
