import { expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { beds } from '../../demo/tables';
import { personalData } from '../../src/use-cases/people/personal-data';
import { as, must, refusal, useWorld } from '../support/world';
import { onlyGrants, trees } from '../support/trees';

/** Where data about people is kept, and who sees it. */
const world = useWorld(undefined, [
  beds,
  {
    ...trees,
    columns: trees.columns.map((column) =>
      column.id === 'ctrname' ? { ...column, personal: 'name' as const } : column,
    ),
  },
]);

it('names each table with its columns and those who see all of it, or some, and is for administrators', async () => {
  await onlyGrants(world, [
    ['Ines', trees, 'see', 'design'],
    ['Ada', trees, 'change'],
  ]);
  await world.sql(
    `INSERT INTO slate.access_grant (table_id, action, person_id, where_rule) VALUES ($1, 'see', $2, 'ctrcount > 3'), ($1, 'see', $3, 'ctrcount > 3')`,
    [trees.id, personNamed('Maren').id, personNamed('Ines').id],
  );
  const told = {
    label: 'Trees',
    path: null,
    columns: [{ label: 'Name', what: 'names of people', isRetired: false, seenBy: null }],
    seenBy: ['Ines Okafor'],
    partlyBy: ['Maren Solheim'],
  };
  const ofTrees = async () => (await must(personalData(as('Wren')))).find(({ label }) => label === 'Trees');
  expect(await ofTrees()).toEqual(told);
  await world.sql(`INSERT INTO slate.access_grant (table_id, action) VALUES ($1, 'see')`, [trees.id]);
  expect(await ofTrees()).toEqual({ ...told, path: '/tables/trees', seenBy: ['everybody'], partlyBy: [] });
  // Of a restricted column it is told who sees it of those.
  await world.sql(`UPDATE slate.designed_column SET restricted = true WHERE id = 'ctrname'`);
  await world.sql(
    `INSERT INTO slate.access_grant (table_id, action, person_id, columns) VALUES ($1, 'see-columns', $2, ARRAY['ctrname'])`,
    [trees.id, personNamed('Maren').id],
  );
  expect((await ofTrees())?.columns[0]?.seenBy).toEqual(['Ines Okafor', 'Maren Solheim']);
  // The directory of people itself is one of them.
  expect((await must(personalData(as('Wren')))).map(({ label }) => label)).toEqual(['Colleagues', 'Trees']);
  expect((await refusal(personalData(as('Ines')))).kind).toBe('forbidden');
});
