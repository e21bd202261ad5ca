import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { beds } from '../../demo/tables';
import type { TableCheck } from '../../src/core/check/check';
import type { EditInput } from '../../src/core/record/edit-input';
import type { GivenReason } from '../../src/core/record/own-checks';
import { rowsName } from '../../src/core/record/table-scope';
import { groupsOf } from '../../src/core/form/design';
import { plainColumn, type Table } from '../../src/core/table/model';
import { createFormOf } from '../../src/use-cases/forms/create-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { readRefusedRows } from '../../src/use-cases/imports/decide-import';
import { intoTable } from '../../src/core/import/into-table';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { readTableImpact } from '../../src/use-cases/tables/table-impact';
import { brought, kept } from '../support/importing';
import { ALL_EDITS, cuts as plainCuts, onlyGrants, plantedBed, trees as plainTrees } from '../support/trees';
import { as, draft, must, newId, refusal, useWorld } from '../support/world';

const trees: Table = {
  ...plainTrees,
  columns: plainTrees.columns.map((column) =>
    column.id === 'ctrcount' ? { ...column, key: 'many', label: 'Many' } : column,
  ),
};
const cuts: Table = {
  ...plainCuts,
  columns: [
    ...plainCuts.columns,
    { ...plainColumn, id: 'ccutaken', key: 'taken', label: 'Taken', kind: 'whole' },
  ],
};
const world = useWorld(async () => {}, [beds, trees, cuts]);
const taken = `${rowsName(cuts.id)}.ccutaken`;
const check = (id: string, on: string, must: string, more: Partial<TableCheck & { otherwise: 'ask' }> = {}) =>
  ({ id, on, must, message: `Not ${id}`, otherwise: 'stop', ...more }) as TableCheck;
const checks: TableCheck[] = [
  check('kcount', 'ctrcount', 'ctrcount >= 1 and ctrcount <= 500'),
  check('khigh', 'ctrheight', 'ctrheight < 30', { otherwise: 'ask' }),
  check('kbed', 'ctrbed', 'ctrcount <= ctrbed.cbedarea'),
  check('ktaken', 'ctrcount', `sum(${taken}) <= ctrcount`),
  {
    id: 'kbeds',
    on: 'ctrbed',
    message: 'Two trees in a bed are enough',
    same: ['ctrbed'],
    rule: { t: 'at-most', most: 2, per: 'ever', date: null },
  },
];
let bed: string;
const everything = [
  ['Ines', trees, ...ALL_EDITS, 'design', 'pick'],
  ['Ines', cuts, ...ALL_EDITS, 'design'],
  ['Ines', beds, 'see', 'pick'],
] as const;

const saving = (edits: readonly EditInput[], name = 'Ines', reasons: readonly GivenReason[] = []) =>
  saveEdits(as(name), { key: newId(), edits, reasons });
const adding = (values: Record<string, string>, id = newId()): EditInput => ({
  t: 'add',
  table: trees.id,
  id,
  parent: null,
  values,
});
const told = async (result: ReturnType<typeof saving>): Promise<unknown[]> => {
  const refused = await refusal(result);
  return refused.kind === 'invalid' ? refused.issues.map(({ code, path }) => [code, ...path]) : [refused];
};
let counter = 0;
const named = (): { ctrname: string } => ({ ctrname: `Tree ${(counter += 1)}` });

/** Draws a change of the trees, and carries it out. */
async function redesigned(change: (table: Table) => Table) {
  const { table } = await must(openTableDesign(as('Ines'), 'trees'));
  if (table === null) throw new Error('no table');
  const id = newId();
  const { version } = await must(
    saveTableChange(as('Ines'), id, {
      version: 0,
      base: table.version,
      redesign: { table: change(table), readings: {}, mends: {} },
    }),
  );
  const impact = await must(readTableImpact(as('Ines'), id));
  return { impact, run: () => runTableChange(as('Ines'), id, { version }) };
}
const constraints = async (): Promise<string[]> =>
  (
    await world.sql(
      `SELECT conname FROM pg_constraint WHERE conrelid = 'records.trees'::regclass AND conname LIKE '%\\_check\\_%' ORDER BY 1`,
    )
  ).map(({ conname }) => String(conname).split('_')[0] ?? '');

beforeAll(async () => {
  await onlyGrants(world, everything);
  bed = await plantedBed(world);
});

describe('checks of a table', () => {
  it('say beforehand which records break them, and the database holds what it can by itself', async () => {
    await must(saving([adding({ ...named(), ctrcount: '900' }), adding({ ...named(), ctrcount: '3' })]));
    const first = await redesigned((table) => ({ ...table, checks }));
    expect(
      first.impact.checks.map(({ check: id, broken, examples, isHeld }) => [
        id,
        broken,
        examples.length,
        isHeld,
      ]),
    ).toEqual([
      ['kcount', 1, 1, false],
      ['khigh', 0, 0, false],
      ['kbed', 0, 0, false],
      ['ktaken', 0, 0, false],
      ['kbeds', 0, 0, false],
    ]);
    await must(first.run());
    expect(await constraints()).toEqual([]);
    await world.sql(`UPDATE records.trees SET many = 90 WHERE many = 900`);
    const again = await redesigned((table) => ({
      ...table,
      checks: checks.map((one) => (one.id === 'kcount' ? { ...one, message: 'From 1 to 500' } : one)),
    }));
    expect(again.impact.checks).toEqual([{ check: 'kcount', broken: 0, examples: [], isHeld: true }]);
    await must(again.run());
    expect(await constraints()).toEqual(['kcount']);
    await expect(world.sql(`INSERT INTO records.trees (name, many) VALUES ('x', 501)`)).rejects.toThrow(
      /kcount_check/,
    );
  });

  it('are asked of what is added and changed, each at its cell; nothing of the batch is kept', async () => {
    const [low, high, big] = [newId(), newId(), newId()];
    expect(
      await told(
        saving([
          adding({ ...named(), ctrcount: '0' }, low),
          adding({ ...named(), ctrheight: '31.5' }, high),
          adding({ ...named(), ctrcount: '2' }),
        ]),
      ),
    ).toEqual([
      ['check-stops', low, 'ctrcount'],
      ['reason-needed', high, 'ctrheight'],
    ]);
    // 20 in a bed of 18.5: told once what is written can be held against what it refers to.
    expect(await told(saving([adding({ ...named(), ctrcount: '20', ctrbed: bed }, big)]))).toEqual([
      ['check-stops', big, 'ctrbed'],
    ]);
    expect(await world.sql('SELECT 1 FROM records.trees WHERE many = 2 OR many = 20')).toEqual([]);
  });

  it('let through what they ask about once its reason is given, which stays beside the trail', async () => {
    const id = newId();
    const edit = adding({ ...named(), ctrheight: '31.5' }, id);
    expect(await told(saving([edit], 'Ines', [{ record: id, check: 'khigh', reason: '  ' }]))).toEqual([
      ['reason-needed', id, 'ctrheight'],
    ]);
    await must(saving([edit], 'Ines', [{ record: id, check: 'khigh', reason: 'Measured twice' }]));
    expect(
      await world.sql(
        `SELECT r.message, r.reason, r.by_id = $2 AS mine, r.at = h.at AS beside FROM slate.record_reason r JOIN slate.history h USING (record_id) WHERE record_id = $1`,
        [id, personNamed('Ines').id],
      ),
    ).toEqual([{ message: 'Not khigh', reason: 'Measured twice', mine: true, beside: true }]);
  });

  it('hold for whoever may not see what they look into, and let alone what a record broke before', async () => {
    await onlyGrants(world, [...everything, ['Ada', trees, ...ALL_EDITS]]);
    const id = newId();
    await must(saving([adding({ ...named(), ctrcount: '4', ctrbed: bed }, id)]));
    await world.sql(`UPDATE records.beds SET area = 3 WHERE id = $1`, [bed]);
    const change = (before: Record<string, string | null>, values: Record<string, string>): EditInput => ({
      t: 'change',
      table: trees.id,
      id,
      version: 1,
      before,
      values,
    });
    await must(saving([change({ ctrheight: null }, { ctrheight: '2.0' })], 'Ada'));
    expect(await told(saving([change({ ctrcount: '4' }, { ctrcount: '5' })], 'Ada'))).toEqual([
      ['check-stops', id, 'ctrbed'],
    ]);
    await world.sql(`UPDATE records.beds SET area = 18.5 WHERE id = $1`, [bed]);
  });

  it('are asked again when rows change, and two who add rows at once are not both right', async () => {
    const id = newId();
    await must(saving([adding({ ...named(), ctrcount: '10' }, id)]));
    const cut = (many: string): EditInput => ({
      t: 'add',
      table: cuts.id,
      id: newId(),
      parent: id,
      values: { ccutaken: many },
    });
    expect(await told(saving([cut('6'), cut('5')]))).toEqual([['check-stops', id, 'ctrcount']]);
    const settled = await Promise.all([saving([cut('6')]), saving([cut('6')]), saving([cut('6')])]);
    expect(settled.filter(({ ok }) => ok)).toHaveLength(1);
    expect(
      await world.sql(`SELECT sum(taken)::int AS n FROM records.cuts WHERE parent_id = $1`, [id]),
    ).toEqual([{ n: 6 }]);
  });

  it('among records let nobody be the third at once', async () => {
    const other = String(
      (
        await world.sql(
          `INSERT INTO records.beds (code, name, section, area) VALUES ('G5', 'Moss bed', 'Fern house', 40) RETURNING id`,
        )
      )[0]?.['id'],
    );
    const settled = await Promise.all(
      Array.from({ length: 5 }, () => saving([adding({ ...named(), ctrbed: other })])),
    );
    expect(settled.filter(({ ok }) => ok)).toHaveLength(2);
    expect(await told(saving([adding({ ...named(), ctrbed: other })]))).toEqual([
      ['check-stops', expect.any(String), 'ctrbed'],
    ]);
  });

  it('hold for forms that write to the table, at the line, without being written again', async () => {
    const id = newId();
    await must(createFormOf(as('Ines'), { id, table: 'trees' }));
    const { design, version } = await must(openWorkbench(as('Ines'), id));
    await must(releaseForm(as('Ines'), id, { version, allow: [trees.id, cuts.id], fill: 'everybody' }));
    const rows = groupsOf(design)[0]?.id ?? expect.fail('no rows');
    const send = async (values: Record<string, string>, reasons = {}, lines = {}) => {
      const saved = await draft('Maren', id, { values: { ...named(), ...values }, rows: lines, reasons });
      return sendSubmission(as('Maren'), saved.id, { key: newId(), version: saved.version });
    };
    const at = async (result: ReturnType<typeof send>) => {
      const refused = await refusal(result);
      return refused.kind === 'invalid' ? refused.issues.map(({ code, path }) => [code, ...path]) : refused;
    };
    expect(await at(send({ ctrcount: '0', ctrheight: '40.0' }))).toEqual([
      ['check-stops', 'ctrcount'],
      ['reason-needed', 'ctrheight'],
    ]);
    expect(
      await at(send({ ctrcount: '2' }, {}, { [rows]: [{ id: 'r1', cells: { ccutaken: '3' } }] })),
    ).toEqual([['check-stops', 'ctrcount']]);
    await must(send({ ctrcount: '2', ctrheight: '40.0' }, { khigh: 'It is a redwood' }));
  });

  it('hold for what is imported, row by row, and the rest is kept where its owner says so', async () => {
    const sheet = 'Name,Many,Height\nOak,5,12\nAsh,0,3\nElm,501,3\nFir,7,44\nYew,2,1\n';
    const data = await brought({ 'trees.csv': sheet });
    const found = data.detection?.sheets[0] ?? expect.fail('no sheet');
    const target = data.tables.find(({ key }) => key === 'trees') ?? expect.fail('no table');
    const done = await kept(data, {
      sheets: { [found.name]: { into: intoTable(found, target) } },
      refusedRows: 'keep-the-rest',
    });
    expect(done.result?.tables.map(({ merged }) => merged?.added)).toEqual([2]);
    expect(done.result?.refusals.map(({ row, code }) => [row, code])).toEqual([
      [3, 'check-stops'],
      [4, 'check-stops'],
      [5, 'reason-needed'],
    ]);
    const chunks: Uint8Array[] = [];
    for await (const chunk of (await must(readRefusedRows(as('Ines'), data.id, { sheet: found.name }))).body)
      chunks.push(chunk);
    expect(Buffer.concat(chunks).toString('utf8')).toContain('From 1 to 500');
  });

  it('cannot be left behind by the columns they read, here or in another table', async () => {
    const gone = await redesigned((table) => ({
      ...table,
      columns: table.columns.filter(({ id }) => id !== 'ctrheight'),
      retired: table.columns.filter(({ id }) => id === 'ctrheight'),
    }));
    expect(gone.impact.issues.map(({ path }) => path)).toContainEqual(['checks', 'khigh']);
    expect((await gone.run()).ok).toBe(false);
  });
});
