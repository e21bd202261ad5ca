import { beforeAll, describe, expect, it } from 'vitest';
import type { ImportData } from '../../src/contract/imports';
import { intoTable, likelyTables, type Into } from '../../src/core/import/into-table';
import { exportTable } from '../../src/use-cases/records/export-table';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { readRefusedRows } from '../../src/use-cases/imports/decide-import';
import { brought, kept, triedOut } from '../support/importing';
import { as, must, newId, refusal, useWorld } from '../support/world';

const world = useWorld();
beforeAll(async () => {
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) SELECT 'A' || i, 'Bed ' || i, 'Rock terraces', i FROM generate_series(1, 100) i`,
  );
});

const into = (
  data: ImportData,
  sheet: string,
  table: string,
  more: Partial<Into> = {},
): { sheets: Record<string, { into: Into }> } => {
  const found = data.detection?.sheets.find(({ name }) => name === sheet) ?? expect.fail(`no sheet ${sheet}`);
  const target = data.tables.find(({ key }) => key === table) ?? expect.fail(`no table ${table}`);
  return { sheets: { [sheet]: { into: { ...intoTable(found, target), ...more } } } };
};
const merged = ({ trial, result }: ImportData) =>
  [...((trial?.result ?? result)?.tables ?? [])].map(({ merged: one }) => one);
const text = async (id: string, sheet: string): Promise<string> => {
  const chunks: Uint8Array[] = [];
  for await (const chunk of (await must(readRefusedRows(as('Ines'), id, { sheet }))).body) chunks.push(chunk);
  return Buffer.concat(chunks).toString('utf8');
};
const state = async () =>
  (
    await world.sql(
      `SELECT count(*)::int AS n, sum(version)::int AS versions, (SELECT count(*)::int FROM slate.history) AS trail, (SELECT coalesce(max(last), 0)::int FROM slate.number_counter) AS counter FROM records.beds`,
    )
  )[0];

/** A90 to A99 stand there already: five say the same, five have another area; then new ones, and some that are wrong. */
const sheet =
  `Code,Bed name,Section,Area (m²),Open to visitors\n${Array.from({ length: 30 }, (_, i) => `A${i + 90},Bed ${i + 90},Rock terraces,${i < 5 ? i + 90 : `${i}.5`},${i % 2 === 0 ? 'yes' : 'no'}`).join('\n')}\n`
    .replaceAll('Bed name', 'Name')
    .replace('A105,Bed 105,Rock terraces,15.5', 'A105,Bed 105,Rock terraces,wide')
    .replace('A106,Bed 106,Rock terraces', 'A106,Bed 106,')
    .replace('A107,', 'A104,');

describe('rows into a table there is', () => {
  it('are matched by their headings and known by what is different in each record', async () => {
    const data = await brought({ 'beds.csv': sheet });
    const [found] = data.detection?.sheets ?? [];
    expect(
      likelyTables(found ?? expect.fail('no sheet'), data.tables).map(({ table, matched }) => [
        table.key,
        matched,
      ]),
    ).toEqual([['beds', 5]]);
    expect(
      intoTable(
        found!,
        data.tables.find(({ key }) => key === 'beds')!,
      ),
    ).toMatchObject({
      by: ['cbedcode'],
      columns: {
        Code: 'cbedcode',
        Name: 'cbedname',
        Section: 'cbedhouse',
        'Area (m²)': 'cbedarea',
        'Open to visitors': 'cbedopen',
      },
      blanks: 'leave',
      what: 'add-and-change',
    });
  });

  it('are tried out first: what would be new, changed and refused, and nothing is', async () => {
    const data = await brought({ 'beds.csv': sheet });
    const before = await state();
    const tried = await triedOut(data, into(data, 'beds', 'beds'));
    expect([tried.state, tried.trial?.result.refused, merged(tried)]).toEqual([
      'proposed',
      3,
      [{ added: 16, changed: 11, same: 0, leftOut: 0 }],
    ]);
    expect(
      tried.trial?.result.refusals.map(({ row, column, code, text: cell }) => [row, column, code, cell]),
    ).toEqual([
      [17, 'Area', 'not-a-number', 'wide'],
      [19, 'Code', 'twice', 'A104'],
      [18, 'Section', 'required', ''],
    ]);
    expect(await state()).toEqual(before);
    expect((await text(data.id, 'beds')).split('\r\n').slice(0, 3)).toEqual([
      '\ufeffWhat is wrong,Code,Name,Section,Area (m²),Open to visitors',
      '"“wide”: Area must be a number, such as 12.5",A105,Bed 105,Rock terraces,wide,no',
      'Section is not filled,A106,Bed 106,,16.5,yes',
    ]);
    expect(await refusal(readRefusedRows(as('Tomasz'), data.id, { sheet: 'beds' }))).toMatchObject({
      kind: 'not-found',
    });
  });

  it('come in all or none, or only the good ones, and the mended file brings the rest', async () => {
    const data = await brought({ 'beds.csv': sheet });
    const refused = await kept(data, into(data, 'beds', 'beds'));
    expect([refused.state, refused.result?.refused]).toEqual(['refused', 3]);
    expect((await state())?.['n']).toBe(100);
    const done = await kept(refused, { ...into(data, 'beds', 'beds'), refusedRows: 'keep-the-rest' });
    expect([done.state, merged(done), done.result?.refusedSheets]).toEqual([
      'kept',
      [{ added: 16, changed: 11, same: 0, leftOut: 0 }],
      ['beds'],
    ]);
    expect(
      await world.sql(
        `SELECT code, area, open_to_visitors AS open, version FROM records.beds WHERE code IN ('A90', 'A96', 'A110') ORDER BY code`,
      ),
    ).toEqual([
      { code: 'A110', area: '20.50', open: true, version: 1 },
      { code: 'A90', area: '90.00', open: true, version: 2 },
      { code: 'A96', area: '6.50', open: true, version: 2 },
    ]);
    expect(
      await world.sql(
        `SELECT change, count(*)::int AS n FROM slate.history h JOIN slate.designed_table t ON t.id = h.table_id WHERE t.key = 'beds' AND h.at > now() - interval '1 minute' GROUP BY change ORDER BY change`,
      ),
    ).toEqual([
      { change: 'changed', n: 11 },
      { change: 'made', n: 116 },
    ]);
    const mended = (await text(data.id, 'beds'))
      .replace('wide,no', '7,no')
      .replace('Bed 106,,', 'Bed 106,Fern house,')
      .replace(',A104,', ',A107,');
    const again = await brought({ 'beds_to_fix.csv': mended });
    expect(merged(await kept(again, into(again, 'beds_to_fix', 'beds')))).toEqual([
      { added: 3, changed: 0, same: 0, leftOut: 0 },
    ]);
  });

  it('repeated change nothing: no version, no line of history', async () => {
    const before = await state();
    const data = await brought({ 'beds.csv': sheet });
    expect(merged(await kept(data, { ...into(data, 'beds', 'beds'), refusedRows: 'keep-the-rest' }))).toEqual(
      [{ added: 0, changed: 0, same: 28, leftOut: 0 }],
    );
    const byAll = await brought({ 'beds.csv': sheet });
    expect(
      merged(await kept(byAll, { ...into(byAll, 'beds', 'beds', { by: [] }), refusedRows: 'keep-the-rest' })),
    ).toMatchObject([{ added: 0, changed: 0 }]);
    expect(await state()).toEqual(before);
  });

  it('of several sheets come into one table together, whichever rows they stand in', async () => {
    const rows = (name: string) =>
      `Code,Name,Section,Area\n${Array.from({ length: 5 }, (_, i) => `${name}${i},Bed ${name}${i},Palm court,${i + 1}`).join('\n')}\nA3,Bed 3,Palm court,${name === 'KN' ? 3 : 4}\n`;
    const data = await brought({ 'north.csv': rows('KN'), 'south.csv': rows('KS') });
    const sheets = { ...into(data, 'north', 'beds').sheets, ...into(data, 'south', 'beds').sheets };
    expect(merged(await kept(data, { sheets }))).toEqual([{ added: 10, changed: 2, same: 0, leftOut: 0 }]);
    expect(
      await world.sql(
        `SELECT count(*)::int AS n, count(DISTINCT number)::int AS numbers FROM records.beds WHERE code ~ '^K[NS]\\d$'`,
      ),
    ).toEqual([{ n: 10, numbers: 10 }]);
  });

  it('can be only added, or only change, and blanks leave or empty', async () => {
    const rows =
      'Code,Name,Section,Area,Open to visitors\nA1,Bed 1,,1,\nA2,Bed two,Palm court,2,\nZ1,New,Palm court,3,yes\n';
    const adding = await brought({ 'some.csv': rows });
    expect(merged(await triedOut(adding, into(adding, 'some', 'beds', { what: 'add' })))).toEqual([
      { added: 1, changed: 0, same: 1, leftOut: 1 },
    ]);
    const changing = await brought({ 'some.csv': rows });
    expect(merged(await kept(changing, into(changing, 'some', 'beds', { what: 'change' })))).toEqual([
      { added: 0, changed: 1, same: 1, leftOut: 1 },
    ]);
    expect(
      await world.sql(`SELECT name, section FROM records.beds WHERE code IN ('A1', 'A2') ORDER BY code`),
    ).toEqual([
      { name: 'Bed 1', section: 'Rock terraces' },
      { name: 'Bed two', section: 'Palm court' },
    ]);
    const emptied = await triedOut(await brought({ 'some.csv': rows }), {});
    const tried = await triedOut(emptied, into(emptied, 'some', 'beds', { what: 'change', blanks: 'empty' }));
    expect(tried.trial?.result.refusals.map(({ row, column, code }) => [row, column, code])).toEqual([
      [2, 'Section', 'required'],
    ]);
  });
});

describe('what was exported', () => {
  it('comes back by its numbers: changed where it was changed, and a number nobody gave is refused', async () => {
    const chunks: Uint8Array[] = [];
    for await (const chunk of (await must(exportTable(as('Ines'), 'beds', 'csv'))).body) chunks.push(chunk);
    const csv = Buffer.concat(chunks).toString('utf8');
    const same = await brought({ 'beds.csv': csv });
    const tried = await triedOut(same, into(same, 'beds', 'beds'));
    expect(into(same, 'beds', 'beds').sheets['beds']?.into.by).toEqual(['number']);
    expect([tried.trial?.result.refused, merged(tried)]).toEqual([
      0,
      [{ added: 0, changed: 0, same: Number((await state())?.['n']), leftOut: 0 }],
    ]);
    const edited = await brought({
      'beds.csv': `${csv.replace('Bed 50,', 'Bed fifty,')}B-1999-0001,Q1,Nowhere,X,1,no\r\n`,
    });
    const changed = await kept(edited, { ...into(edited, 'beds', 'beds'), refusedRows: 'keep-the-rest' });
    expect([merged(changed), changed.result?.refusals.map(({ code, text: cell }) => [code, cell])]).toEqual([
      [{ added: 0, changed: 1, same: Number((await state())?.['n']) - 1, leftOut: 0 }],
      [['not-found-there', 'B-1999-0001']],
    ]);
    expect(await world.sql(`SELECT name FROM records.beds WHERE code = 'A50'`)).toEqual([
      { name: 'Bed fifty' },
    ]);
  });
});

describe('a table with references, defaults and sets', () => {
  it('finds records by their names, those of this import among them, and keeps what a set forbids', async () => {
    const made = await brought({
      'plots.csv': `Plot,Bed,On\n${Array.from({ length: 30 }, (_, i) => `${i + 1},A${1 + (i % 12)},2026-01-${String(i + 1).padStart(2, '0')}`).join('\n')}\n`,
    });
    await kept(made);
    const { table } = await must(openTableDesign(as('Ines'), 'plots'));
    const id = newId();
    const column = (key: string) =>
      table?.columns.find((one) => one.key === key)?.id ?? expect.fail(`no column ${key}`);
    expect(table?.columns.find(({ key }) => key === 'bed')?.kind).toBe('reference');
    const { version } = await must(
      saveTableChange(as('Ines'), id, {
        version: 0,
        base: table!.version,
        redesign: {
          table: { ...table!, together: [[column('bed'), column('on')]] },
          readings: {},
          mends: {},
        },
      }),
    );
    await must(runTableChange(as('Ines'), id, { version }));
    const both = await brought({
      'beds.csv': 'Code,Name,Section,Area\nN1,New bed,Palm court,4\nN2,Other bed,Palm court,5\n',
      'plots.csv':
        'Plot,Bed,On\n109,n1 · new bed,2026-02-01\n110,N2,2026-02-01\n111,a1,2026-02-02\n112,Nowhere,2026-02-03\n',
    });
    const decisions = {
      sheets: { ...into(both, 'beds', 'beds').sheets, ...into(both, 'plots', 'plots').sheets },
      refusedRows: 'keep-the-rest' as const,
    };
    const done = await kept(both, decisions);
    expect([merged(done), done.result?.refusals.map(({ row, code }) => [row, code])]).toEqual([
      [
        { added: 2, changed: 0, same: 0, leftOut: 0 },
        { added: 3, changed: 0, same: 0, leftOut: 0 },
      ],
      [[5, 'not-found-there']],
    ]);
    expect(
      (
        await world.sql(
          `SELECT p.plot, b.code FROM records.plots p JOIN records.beds b ON b.id = p.bed WHERE p.plot::int > 100 ORDER BY 1`,
        )
      ).map(({ plot, code }) => [Number(plot), code]),
    ).toEqual([
      [109, 'N1'],
      [110, 'N2'],
      [111, 'A1'],
    ]);
    const shared = await brought({ 'plots.csv': 'Plot,Bed,On\n120,A1,2026-01-01\n' });
    const refused = await kept(shared, into(shared, 'plots', 'plots', { by: [column('plot')] }));
    expect([refused.state, refused.result?.refusals.map(({ code }) => code)]).toEqual(['refused', ['twice']]);
  });
});
