import { existsSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { expect, it } from 'vitest';
import { openImport } from '../../src/use-cases/imports/decide-import';
import { current } from '../../src/use-cases/imports/read-import';
import { forgetFiles, withFiles } from '../../src/use-cases/imports/spooled-files';
import { brought, kept } from '../support/importing';
import { as, must, useWorld } from '../support/world';

useWorld(undefined, []);

const sheet = `Tool,Shelf\n${Array.from({ length: 50 }, (_, i) => `T${i},${i % 4}`).join('\n')}\n`;
const row = async (id: string) => (await current(id)) ?? expect.fail('no import');
const pathOf = async (id: string): Promise<string> =>
  withFiles(await row(id), ([file]) => Promise.resolve(file?.path ?? ''));

it('files stay laid down from one use to the next, are laid anew after a fault, and go when the import has ended', async () => {
  const { id } = await brought({ 'tools.csv': sheet });
  const first = await pathOf(id);
  expect([readFileSync(first, 'utf8'), await pathOf(id)]).toEqual([sheet, first]);
  await expect(
    withFiles(await row(id), () => Promise.reject(new Error('something went wrong'))),
  ).rejects.toThrow('something went wrong');
  expect(existsSync(dirname(first))).toBe(false);
  const second = await pathOf(id);
  expect([second === first, readFileSync(second, 'utf8')]).toEqual([false, sheet]);
  expect((await kept(await must(openImport(as('Ines'), id)))).state).toBe('kept');
  expect(existsSync(dirname(second))).toBe(false);
});

it('what is laid beside them goes with whoever laid it, and only so many imports are kept', async () => {
  const ids: string[] = [];
  for (const name of ['a.csv', 'b.csv', 'c.csv', 'd.csv']) ids.push((await brought({ [name]: sheet })).id);
  const paths = [];
  for (const id of ids) paths.push(await pathOf(id));
  expect(paths.map((path) => existsSync(path))).toEqual([false, false, true, true]);
  let beside = '';
  await withFiles(await row(ids[3] ?? ''), (_, folder) => {
    beside = folder;
    return Promise.resolve(existsSync(folder));
  });
  expect(existsSync(beside)).toBe(false);
  for (const id of ids) await forgetFiles(id);
  expect(paths.map((path) => existsSync(path))).toEqual([false, false, false, false]);
});
