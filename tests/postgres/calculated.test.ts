import { beforeAll, describe, expect, it } from 'vitest';
import { beds } from '../../demo/tables';
import type { EditInput } from '../../src/core/record/edit-input';
import { rowsName } from '../../src/core/record/table-scope';
import { intoTable } from '../../src/core/import/into-table';
import { plainColumn, type Column, type Table } from '../../src/core/table/model';
import { exportTable } from '../../src/use-cases/records/export-table';
import { openRecords } from '../../src/use-cases/records/open-records';
import { pickRecords } from '../../src/use-cases/records/pick-records';
import { readGroups } from '../../src/use-cases/records/read-groups';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { dropTableChange, openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { readTableImpact } from '../../src/use-cases/tables/table-impact';
import { brought, kept } from '../support/importing';
import { ALL_EDITS, cuts as plainCuts, onlyGrants, trees as plainTrees } from '../support/trees';
import { as, must, newId, refusal, useWorld } from '../support/world';

/** Columns that are worked out: from the record, from what it refers to, from its rows, and from one another. */
const column = (
  id: string,
  key: string,
  kind: Column['kind'],
  formula: string,
  decimals: number | null = null,
): Column => ({
  ...plainColumn,
  id,
  key,
  label: key,
  kind,
  formula,
  decimals,
});
const cuts: Table = {
  ...plainCuts,
  columns: [
    // Of the same name as one of the trees: each is known by the type of its record.
    column('ccudouble', 'double', 'whole', 'ccutaken * 2'),

    ...plainCuts.columns,
    { ...plainColumn, id: 'ccutaken', key: 'taken', label: 'Taken', kind: 'whole' },
  ],
};
const taken = `${rowsName(cuts.id)}.ccutaken`;
const trees: Table = {
  ...plainTrees,
  columns: [
    ...plainTrees.columns.map((one) =>
      one.id === 'ctrcount' ? { ...one, key: 'many', label: 'Many' } : one,
    ),
    column('ctrdouble', 'double', 'whole', 'ctrcount * 2'),
    column(
      'ctrleft',
      'left_over',
      'whole',
      `ctrcount - (if count(${rowsName(cuts.id)}) = 0 then 0 else sum(${taken}))`,
    ),
    column('ctrdense', 'dense', 'decimal', 'ctrcount / ctrbed.cbedarea', 2),
    column('ctrfull', 'full', 'yes-no', 'ctrleft > 5'),
    column('ctrwords', 'words', 'text', 'ctrname + " of " + string(ctrcount)'),
    column('ctrage', 'age', 'whole', 'if ctrseen = null then null else (today() - ctrseen).days'),
  ],
};
trees satisfies Table;
const world = useWorld(undefined, [
  beds,
  { ...trees, columns: trees.columns.filter(({ id }) => id !== 'ctrage') },
  cuts,
]);
const ids: string[] = [];
beforeAll(async () => {
  await onlyGrants(world, [
    ['Ines', trees, ...ALL_EDITS, 'design', 'pick'],
    ['Ines', cuts, ...ALL_EDITS],
    ['Ines', beds, 'see', 'pick'],
    ['Ada', trees, ...ALL_EDITS],
  ]);
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('G1', 'One', 'Fern house', 3)`,
  );
  await world.sql(
    `INSERT INTO records.trees (name, many, bed) SELECT 'Tree ' || n, n, (SELECT id FROM records.beds) FROM generate_series(1, 10) n`,
  );
  ids.push(...(await world.sql('SELECT id FROM records.trees ORDER BY many')).map(({ id }) => String(id)));
  await world.sql(
    `INSERT INTO records.cuts (parent_id, position, taken) SELECT id, 1, 4 FROM records.trees WHERE many >= 8`,
  );
});

const page = async (query: { sort?: string; where?: string; find?: string } = {}, name = 'Ines') =>
  (await must(openRecords(as(name), 'trees', { sort: 'many', ...query }))).rows.map(({ cells }) => cells);
const saving = (edits: readonly EditInput[]) => saveEdits(as('Ines'), { key: newId(), edits });
async function redesigned(change: (table: Table) => Table) {
  const { table, draft } = await must(openTableDesign(as('Ines'), 'trees'));
  if (table === null) throw new Error('no table');
  if (draft !== null) await must(dropTableChange(as('Ines'), draft.id));
  const id = newId();
  const { version } = await must(
    saveTableChange(as('Ines'), id, {
      version: 0,
      base: table.version,
      redesign: { table: change(table), readings: {}, mends: {} },
    }),
  );
  const impact = await must(readTableImpact(as('Ines'), id));
  const run = () => runTableChange(as('Ines'), id, { version });
  return { issues: impact.issues.map(({ code, path }) => [code, ...path]), run };
}

describe('columns that are worked out', () => {
  it('show what record, reference and rows come to, as they are now', async () => {
    const rows = await page();
    expect(rows[0]).toMatchObject({
      ctrdouble: '2',
      ctrleft: '1',
      ctrdense: '0.33',
      ctrfull: false,
      ctrwords: 'Tree 1 of 1',
    });
    expect(rows[9]).toMatchObject({ ctrdouble: '20', ctrleft: '6', ctrdense: '3.33', ctrfull: true });
    await must(
      saving([{ t: 'add', table: cuts.id, id: newId(), parent: ids[9] ?? '', values: { ccutaken: '2' } }]),
    );
    expect((await page())[9]).toMatchObject({ ctrleft: '4', ctrfull: false });
  });

  it('are found, sorted, counted and shown in lookups by', async () => {
    expect((await page({ where: 'left_over >= 5 and full' })).map(({ ctrname }) => ctrname)).toEqual([
      'Tree 6',
      'Tree 7',
    ]);
    expect((await page({ where: 'dense = 0.33' })).length).toBe(1);
    expect((await page({ sort: '-left_over' })).slice(0, 2).map(({ ctrleft }) => ctrleft)).toEqual([
      '7',
      '6',
    ]);
    const { groups } = await must(readGroups(as('Ines'), 'trees', { find: '', where: '', by: 'full' }));
    expect(groups.map(({ records }) => records).sort()).toEqual([2, 8]);
    expect((await must(pickRecords(as('Ines'), 'trees', 'Tree 3'))).options).toHaveLength(1);
  });

  it('are empty for whoever may not see what they look into, and say nothing of it', async () => {
    expect((await page({}, 'Ada'))[0]).toMatchObject({ ctrdouble: '2', ctrdense: null });
    expect(await page({ where: 'dense > 0' }, 'Ada')).toEqual([]);
  });

  it('are typed by nobody, and what an import says of them is left aside', async () => {
    expect(
      await refusal(
        saving([
          {
            t: 'change',
            table: trees.id,
            id: ids[0] ?? '',
            version: 1,
            before: { ctrdouble: '2' },
            values: { ctrdouble: '9' },
          },
        ]),
      ),
    ).toMatchObject({ issues: [{ code: 'column-calculated', path: [ids[0], 'ctrdouble'] }] });
    const data = await brought({ 'trees.csv': 'Name,Many,double\nOak,5,99\nElm,6,99\n' });
    const found = data.detection?.sheets[0] ?? expect.fail('no sheet');
    const target = data.tables.find(({ key }) => key === 'trees') ?? expect.fail('no table');
    const into = intoTable(found, target);
    expect(Object.values(into.columns)).toEqual(['ctrname', 'ctrcount']);
    // Whoever sends it all the same writes nothing into it.
    await kept(data, {
      sheets: { [found.name]: { into: { ...into, columns: { ...into.columns, double: 'ctrdouble' } } } },
    });
    expect((await page({ find: 'Oak' }))[0]).toMatchObject({ ctrdouble: '10' });
  });

  it('go out with the rest of the table', async () => {
    const chunks: Uint8Array[] = [];
    for await (const chunk of (await must(exportTable(as('Ines'), 'trees', 'csv'))).body) chunks.push(chunk);
    expect(Buffer.concat(chunks).toString('utf8')).toContain('Tree 9 of 9');
  });

  it('follow a renamed column and a new formula, and are added to a table with records', async () => {
    const change = await redesigned((table) => ({
      ...table,
      columns: [
        ...table.columns.map((one) =>
          one.id === 'ctrcount'
            ? { ...one, key: 'how_many' }
            : one.id === 'ctrdouble'
              ? { ...one, formula: 'ctrcount * 3' }
              : one,
        ),
        ...trees.columns.filter(({ id }) => id === 'ctrage'),
      ],
    }));
    expect(change.issues).toEqual([]);
    await must(change.run());
    const rows = await must(openRecords(as('Ines'), 'trees', { sort: 'how_many', where: 'double > 26' }));
    expect(rows.rows.map(({ cells }) => [cells['ctrdouble'], cells['ctrage']])).toEqual([
      ['27', null],
      ['30', null],
    ]);
  });

  it('are checked when what they read changes, also when that is a row', async () => {
    const change = await redesigned((table) => ({
      ...table,
      checks: [
        { id: 'kleft', on: 'ctrcount', must: 'ctrleft >= 0', message: 'No more is left', otherwise: 'stop' },
      ],
    }));
    await must(change.run());
    const id = ids[2] ?? '';
    expect(
      await refusal(
        saving([{ t: 'add', table: cuts.id, id: newId(), parent: id, values: { ccutaken: '4' } }]),
      ),
    ).toMatchObject({ issues: [{ code: 'check-stops', path: [id, 'ctrcount'] }] });
  });

  it.each<[string, (table: Table) => Table, unknown[]]>([
    [
      'from themselves',
      (table) => ({
        ...table,
        columns: table.columns.map((one) =>
          one.id === 'ctrleft' ? { ...one, formula: 'if ctrfull then 1 else 2' } : one,
        ),
      }),
      ['formula-circle', 'ctrleft', 'formula'],
    ],
    [
      'as another kind',
      (table) => ({
        ...table,
        columns: table.columns.map((one) => (one.id === 'ctrleft' ? { ...one, formula: '"a"' } : one)),
      }),
      ['result-type', 'ctrleft', 'formula'],
    ],
    [
      'from what is gone',
      (table) => ({
        ...table,
        columns: table.columns.filter(({ id }) => id !== 'ctrcount'),
        retired: [...table.retired, ...table.columns.filter(({ id }) => id === 'ctrcount')],
      }),
      ['unknown-name', 'ctrleft', 'formula'],
    ],
    [
      'where they were filled',
      (table) => ({
        ...table,
        columns: table.columns.map((one) => (one.id === 'ctrname' ? { ...one, formula: '"a"' } : one)),
      }),
      ['formula-fixed', 'ctrname', 'formula'],
    ],
  ])('cannot be worked out %s', async (_, change, expected) => {
    const drawn = await redesigned(change);
    expect(drawn.issues).toContainEqual(expected);
    expect((await drawn.run()).ok).toBe(false);
  });
});
