import { plainColumn, plainTable, type Table } from '../../src/core/table/model';
import { personNamed } from '../../demo/people';
import { beds, tableId } from '../../demo/tables';
import type { World } from './world';

/** A table with a column of most kinds, and its rows: for tests of what is done with records. */
export const trees: Table = {
  ...plainTable,
  id: tableId(41),
  key: 'trees',
  label: 'Trees',
  prefix: 'TR',
  columns: [
    { ...plainColumn, id: 'ctrname', key: 'name', label: 'Name', required: true, unique: true },
    { ...plainColumn, id: 'ctrcount', key: 'count', label: 'Count', kind: 'whole' },
    { ...plainColumn, id: 'ctrheight', key: 'height', label: 'Height', kind: 'decimal', decimals: 1 },
    { ...plainColumn, id: 'ctrseen', key: 'seen', label: 'Seen', kind: 'date' },
    { ...plainColumn, id: 'ctrat', key: 'measured', label: 'Measured', kind: 'date-time' },
    { ...plainColumn, id: 'ctrwild', key: 'wild', label: 'Wild', kind: 'yes-no' },
    { ...plainColumn, id: 'ctrbed', key: 'bed', label: 'Bed', kind: 'reference', target: beds.id },
  ],
};
export const cuts: Table = {
  ...plainTable,
  id: tableId(42),
  key: 'cuts',
  label: 'Cuts',
  prefix: 'C',
  parent: trees.id,
  columns: [{ ...plainColumn, id: 'ccuwhy', key: 'why', label: 'Why' }],
};

/** Takes away what everybody may, and lets some people do some things with tables. */
export async function onlyGrants(
  world: World,
  grants: readonly (readonly [name: string, table: Table, ...actions: string[]])[],
): Promise<void> {
  await world.sql('DELETE FROM slate.access_grant');
  for (const [name, table, ...actions] of grants)
    for (const action of actions)
      await world.sql(
        `INSERT INTO slate.access_grant (id, table_id, action, person_id) VALUES (gen_random_uuid(), $1, $2, $3)`,
        [table.id, action, personNamed(name).id],
      );
}
/** All that can be done with records. */
export const ALL_EDITS = ['see', 'add', 'change', 'remove'] as const;

/** A bed, whose title is `G4 · Fern house`; gives its id. */
export async function plantedBed(world: World): Promise<string> {
  const rows = await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('G4', 'Fern house', 'Fern house', 18.5) RETURNING id`,
  );
  return String(rows[0]?.['id']);
}
