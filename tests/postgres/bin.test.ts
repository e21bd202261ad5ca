import { beforeAll, expect, it } from 'vitest';
import type { EditInput } from '../../src/core/record/edit-input';
import { openBin } from '../../src/use-cases/records/open-bin';
import { openRecord } from '../../src/use-cases/records/open-records';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { pruneOld } from '../../src/use-cases/workspace/prune-old';
import { beds } from '../../demo/tables';
import { as, must, newId, refusal, useWorld } from '../support/world';
import { ALL_EDITS, cuts, onlyGrants, plantedBed, trees } from '../support/trees';

/** What is removed lies in the bin of its table, comes back with its rows, and is removed for good when its time is over. */
const world = useWorld(undefined, [beds, trees, cuts]);
const [ash, elm, cut, other] = [newId(), newId(), newId(), newId()];
let bed = '';
beforeAll(async () => {
  await onlyGrants(world, [
    ...[beds, trees, cuts].map((table) => ['Ines', table, ...ALL_EDITS] as const),
    ['Tomasz', trees, 'see', 'change'],
  ]);
  bed = await plantedBed(world);
  await save([
    { t: 'add', table: trees.id, id: ash, parent: null, values: { ctrname: 'Ash', ctrbed: bed } },
    { t: 'add', table: trees.id, id: elm, parent: null, values: { ctrname: 'Elm' } },
    { t: 'add', table: cuts.id, id: cut, parent: ash, values: { ccuwhy: 'storm' } },
    { t: 'add', table: cuts.id, id: other, parent: ash, values: { ccuwhy: 'light' } },
  ]);
});
const save = (edits: readonly EditInput[]) => must(saveEdits(as('Ines'), { key: newId(), edits }));
const binOf = async (table: string) =>
  (await must(openBin(as('Ines'), table))).removed.map(({ id, title, by }) => [id, title, by]);

it('shows what was removed by itself to those who may remove, and brings it back with its rows', async () => {
  await save([{ t: 'remove', table: cuts.id, id: other, version: 1 }]);
  await save([{ t: 'remove', table: trees.id, id: ash, version: 1 }]);
  expect(await binOf('trees')).toEqual([[ash, '', 'Ines Okafor']]);
  // The row that went with its record is not in the bin by itself.
  expect(await binOf('cuts')).toEqual([[other, '', 'Ines Okafor']]);
  expect(await refusal(openBin(as('Tomasz'), 'trees'))).toEqual({ kind: 'forbidden', why: 'remove-records' });
  expect(await refusal(openBin(as('Ada'), 'trees'))).toEqual({ kind: 'not-found', what: 'table' });
  await save([{ t: 'restore', table: trees.id, id: ash, version: 2 }]);
  const { related, history } = await must(openRecord(as('Ines'), 'trees', ash));
  expect(related[0]?.rows.map(({ id }) => id)).toEqual([cut]);
  expect(history.map(({ change }) => change)).toEqual(['made', 'removed', 'restored']);
});

it('removes for good what has been there long enough and is named by nothing that is left', async () => {
  await save([
    { t: 'remove', table: trees.id, id: ash, version: 3 },
    { t: 'remove', table: trees.id, id: elm, version: 1 },
  ]);
  const [row] = await world.sql('SELECT version FROM records.beds WHERE id = $1', [bed]);
  await save([{ t: 'remove', table: beds.id, id: bed, version: Number(row?.['version']) }]);
  const ids = async () =>
    (await world.sql('SELECT id FROM records.trees UNION ALL SELECT id FROM records.cuts')).map(
      (one) => one['id'],
    );
  await pruneOld();
  expect((await ids()).sort()).toEqual([ash, elm, cut, other].sort());
  const later = new Date(Date.now() + 91 * 86_400_000);
  await world.sql(`UPDATE records.trees SET removed_at = now() + interval '60 days' WHERE id = '${elm}'`);
  await pruneOld(later);
  expect(await ids()).toEqual([elm]);
  // The bed was named by the ash when its turn came, or goes with it: by the next night it is gone.
  await pruneOld(later);
  expect(await world.sql('SELECT id FROM records.beds')).toEqual([]);
  // The trail still tells of it.
  const told = await world.sql(`SELECT change FROM slate.history WHERE record_id = $1 ORDER BY id`, [ash]);
  expect(told.at(-1)).toEqual({ change: 'removed' });
});
