import { readFileSync } from 'node:fs';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { noDecisions } from '../../src/core/import/decisions';
import { answered, isAccepted, proposalsOf } from '../../src/core/import/proposals';
import { beginImport, bringPiece, cancelImport, readBrought } from '../../src/use-cases/imports/begin-import';
import {
  acceptImport,
  decideImport,
  openImport,
  readWithHeadings,
} from '../../src/use-cases/imports/decide-import';
import { keepImport } from '../../src/use-cases/imports/keep-import';
import { readSheets } from '../../src/use-cases/imports/read-import';
import { brought, kept, triedOut } from '../support/importing';
import { openRecord } from '../../src/use-cases/records/open-records';
import { fold } from '../../src/core/import/cell';
import { hashOf } from '../../src/core/import/hash';
import { ok } from '../../src/core/kernel/result';
import { readNames } from '../../src/data/runtime/tables/table-keys';
import { catalogueNow } from '../../src/data/catalogue';
import { asOwner } from '../../src/data/transaction';
import { as, must, newId, refusal, useWorld } from '../support/world';

const world = useWorld();

const beds = `Code;Name;Area\n${Array.from({ length: 12 }, (_, i) => `X${i};Bed ${i};${i},5`).join('\n')}\n`;

describe('importing the garden’s old workbook', () => {
  it('ends as tables with every reference, by accepting what is proposed', async () => {
    const proposed = await brought({
      'quillmere-sheets.xlsx': readFileSync(new URL('../../demo/quillmere-sheets.xlsx', import.meta.url)),
    });
    expect([proposed.state, proposed.detection?.sheets.length, proposed.samples['Beds']?.length]).toEqual([
      'proposed',
      6,
      40,
    ]);
    const done = await kept(proposed);
    expect(done.result?.refusals).toEqual([]);
    expect([
      done.state,
      done.result?.refused,
      done.result?.tables.map(({ key, records }) => [key, records]),
    ]).toEqual([
      'kept',
      0,
      [
        ['beds_2', 128],
        ['plant_names', 120],
        ['suppliers', 5],
        ['products_2', 14],
        ['deliveries', 160],
        ['treatments', 220],
        ['treatment_lines', 425],
        ['people', 3],
        ['inspections', 240],
      ],
    ]);
    const references = await world.sql(
      `SELECT conrelid::regclass::text AS "from", confrelid::regclass::text AS "to", count(*)::int AS n FROM pg_constraint WHERE contype = 'f' AND conrelid::regclass::text IN ('records.deliveries', 'records.treatments', 'records.treatment_lines', 'records.inspections') AND confrelid::regclass::text LIKE 'records.%' GROUP BY 1, 2 ORDER BY 1, 2`,
    );
    expect(references.map((one) => [one['from'], one['to']])).toEqual([
      ['records.deliveries', 'records.products_2'],
      ['records.deliveries', 'records.suppliers'],
      ['records.inspections', 'records.beds_2'],
      ['records.inspections', 'records.people'],
      ['records.treatment_lines', 'records.products_2'],
      ['records.treatment_lines', 'records.treatments'],
      ['records.treatments', 'records.beds_2'],
    ]);
    const [line] = await world.sql(
      `SELECT d.number, d.delivered::text, d.price::text, p.name, s.supplier, s.phone, b.name AS made_by, d.version FROM records.deliveries d JOIN records.products_2 p ON p.id = d.product JOIN records.suppliers s ON s.id = d.supplier JOIN slate.person b ON b.id = d.created_by ORDER BY d.number LIMIT 1`,
    );
    expect(line).toMatchObject({
      number: expect.stringMatching(/^DE-\d{4}-0001$/) as string,
      delivered: '2023-02-01',
      made_by: 'Ines Okafor',
      version: 1,
    });
  });

  it('leaves a trail, and goes on counting where it stopped', async () => {
    const ids = (await world.sql('SELECT id FROM records.deliveries ORDER BY number')).map(({ id }) =>
      String(id),
    );
    for (const id of [ids[0], ids[80], ids.at(-1)])
      expect((await must(openRecord(as('Ines'), 'deliveries', id ?? ''))).history).toMatchObject([
        { change: 'imported', by: 'Ines Okafor' },
      ]);
    await world.sql(`UPDATE records.deliveries SET price = price + 1 WHERE id = $1`, [ids[80]]);
    expect(
      (await must(openRecord(as('Ines'), 'deliveries', ids[80] ?? ''))).history.map(({ change }) => change),
    ).toEqual(['imported', 'changed']);
    expect((await must(openRecord(as('Ines'), 'deliveries', ids[81] ?? ''))).history).toHaveLength(1);
    expect(
      await world.sql(
        `INSERT INTO records.suppliers (supplier, phone, town) VALUES ('Newcomer', '+44 1632 960 999', 'Oxley') RETURNING right(number, 4) AS n, created_by`,
      ),
    ).toEqual([{ n: '0006', created_by: null }]);
    const [newcomer] = await world.sql(`SELECT id FROM records.suppliers WHERE supplier = 'Newcomer'`);
    expect(
      (await must(openRecord(as('Ines'), 'suppliers', String(newcomer?.['id'])))).history.map(
        ({ change }) => change,
      ),
    ).toEqual(['made']);
    expect(await world.sql(`SELECT count(*)::int AS n FROM slate.import_piece`)).toEqual([{ n: 0 }]);
  });
});

describe('a sheet that names records of tables there are', () => {
  it('refers to them, whoever wrote the codes how', async () => {
    const codes = (await world.sql('SELECT code FROM records.beds_2 ORDER BY code LIMIT 20')).map(
      ({ code }) => String(code),
    );
    const proposed = await brought({
      'weeding.csv': `No;Bed;Hours\n${Array.from({ length: 40 }, (_, i) => `W${i};${i === 5 ? 'Q9-99' : ` ${codes[i % 20]?.toLowerCase()}`};${i % 4},5`).join('\n')}\n`,
    });
    expect(proposed.detection?.relations).toMatchObject([
      {
        from: { column: 'Bed' },
        to: { sheet: 'Beds', column: 'Code' },
        covered: 20,
        missed: 1,
        misses: [{ row: 7, text: 'Q9-99' }],
        table: { id: expect.any(String) as string },
      },
    ]);
    const done = await kept(proposed, { refusedRows: 'keep-the-rest' });
    expect([done.state, done.result?.refusals]).toEqual([
      'kept',
      [{ sheet: 'weeding', row: 7, column: 'Bed', text: 'Q9-99', code: 'not-found-there' }],
    ]);
    expect(
      await world.sql(
        `SELECT count(*)::int AS n FROM records.weeding w JOIN records.beds_2 b ON b.id = w.bed`,
      ),
    ).toEqual([{ n: 39 }]);
  });
});

describe('the records of a table there is', () => {
  it('are found by their names some at a time, those that are wanted; a name of several names none', async () => {
    const read = (names: readonly string[], by: string | null) =>
      must(
        asOwner({ person: '' }, async (tx) => {
          const table =
            [...(await catalogueNow(tx)).tables.values()].find(({ key }) => key === 'beds_2') ??
            expect.fail('no table');
          return ok(
            (
              await readNames(
                tx,
                table,
                table.columns.find(({ key }) => key === by) ?? null,
                new Set(names.map((name) => hashOf(fold(name)))),
                10,
              )
            ).size,
          );
        }),
      );
    const beds = await world.sql('SELECT code, number, section FROM records.beds_2');
    expect(beds.length).toBe(128);
    const all = (key: string) => beds.map((bed) => String(bed[key]));
    expect([
      await read(all('code'), 'code'),
      await read(['g1-01', ' G9 - 99'], 'code'),
      await read([...all('code'), ...all('number')], null),
      await read(all('section'), 'section'),
      await read([], 'code'),
    ]).toEqual([128, 1, 256, 0, 0]);
  });
});

describe('sheets that refer to one another', () => {
  const gangs = `Gang,Leader\n${Array.from({ length: 6 }, (_, i) => `Gang ${'ABCDEF'[i]},H-${String((i % 4) * 5).padStart(2, '0')}`).join('\n')}\n`;
  const hands = `Hand,Full name,Gang,Reports to\n${Array.from({ length: 30 }, (_, i) => `H-${String(i).padStart(2, '0')},Hand number ${i},Gang ${'ABCDEF'[i % 6]},${i === 29 ? '' : `H-${String(i + 1).padStart(2, '0')}`}`).join('\n')}\n`;

  it('in a circle end with all of their references, also to later rows of their own', async () => {
    const proposed = await brought({ 'Gangs.csv': gangs, 'Hands.csv': hands });
    expect(
      proposed.detection?.relations.map(({ from, to }) => `${from.column} → ${to.sheet}`).sort(),
    ).toEqual(['Gang → Gangs', 'Leader → Hands', 'Reports to → Hands']);
    const done = await kept(proposed);
    expect([done.state, done.result?.refusals]).toEqual(['kept', []]);
    expect(
      await world.sql(
        `SELECT count(DISTINCT h.id)::int AS hands, count(DISTINCT l.id)::int AS led, count(DISTINCT m.id)::int AS managed FROM records.hands h JOIN records.gangs g ON g.id = h.gang LEFT JOIN records.gangs l ON l.leader = h.id LEFT JOIN records.hands m ON m.id = h.reports_to`,
      ),
    ).toEqual([{ hands: 30, led: 6, managed: 29 }]);
  });
});

describe('what is named and not there', () => {
  const plots = `Plot,Name,Area,Shaded\n${Array.from({ length: 12 }, (_, i) => `Q${i},Plot ${i},${i}.5,${i % 3 === 0 ? 'yes' : 'no'}`).join('\n')}\n`;
  const jobs = `Job,Plot,Beside\n${Array.from({ length: 40 }, (_, i) => `J${i},${i === 5 ? 'q77' : i === 6 ? ' Q77 ' : i === 30 ? 'Q99' : `Q${i % 12}`},${i % 2 === 0 ? `Q${i % 12}` : ''}`).join('\n')}\n`;

  it('becomes records of its own where the owner says so, once each, and the rest of them is empty', async () => {
    const proposed = await brought({ 'Patches.csv': plots, 'Jobs.csv': jobs });
    expect(proposed.detection?.relations.find(({ from }) => from.column === 'Plot')).toMatchObject({
      covered: 12,
      missed: 2,
      misses: [
        { row: 7, text: 'q77' },
        { row: 32, text: 'Q99' },
      ],
    });
    expect((await kept(proposed)).result?.refusals).toHaveLength(3);
    const done = await kept(await must(openImport(as('Ines'), proposed.id)), {
      adds: ['relation:Jobs/Plot'],
    });
    expect([
      done.state,
      done.result?.refusals,
      done.result?.tables.map(({ key, records }) => [key, records]),
    ]).toEqual([
      'kept',
      [],
      [
        ['patches', 14],
        ['jobs', 40],
      ],
    ]);
    expect(
      await world.sql(
        `SELECT p.plot, p.name, p.shaded, count(j.id)::int AS jobs FROM records.patches p LEFT JOIN records.jobs j ON j.plot = p.id WHERE p.name IS NULL GROUP BY p.id ORDER BY p.plot`,
      ),
    ).toEqual([
      { plot: 'Q99', name: null, shaded: null, jobs: 1 },
      { plot: 'q77', name: null, shaded: null, jobs: 2 },
    ]);
  });

  it('becomes records of a table there is, which are tried out with the rest and found by whatever names them next', async () => {
    const tasks = (name: string) =>
      `Task,Plot\n${Array.from({ length: 30 }, (_, i) => `${name}${i},${i === 4 ? ' q99 ' : i === 11 ? 'Q200' : i === 20 ? 'q 200' : i === 21 ? 'Q201' : `Q${i % 12}`}`).join('\n')}\n`;
    const proposed = await brought({ 'Tasks.csv': tasks('T'), 'Chores.csv': tasks('C') });
    expect(
      proposed.detection?.relations.map(({ from, to, missed, table }) => [
        from.sheet,
        to.sheet,
        missed,
        table !== null,
      ]),
    ).toEqual([
      ['Tasks', 'Patches', 2, true],
      ['Chores', 'Patches', 2, true],
    ]);
    const adds = ['relation:Tasks/Plot', 'relation:Chores/Plot'];
    const there = async () =>
      (
        await world.sql(
          `SELECT count(*)::int AS n, (SELECT max(last) FROM slate.number_counter c JOIN slate.designed_table t ON t.id = c.table_id WHERE t.key = 'patches') AS last FROM records.patches`,
        )
      )[0];
    const before = await there();
    const tried = await triedOut(proposed, { adds });
    expect([
      tried.trial?.result.refusals,
      tried.trial?.result.tables.map(({ key, records }) => [key, records]),
    ]).toEqual([
      [],
      [
        ['patches', 2],
        ['tasks', 30],
        ['chores', 30],
      ],
    ]);
    expect(await there()).toEqual(before);
    const done = await kept(tried, { adds });
    expect([
      done.state,
      done.result?.tables.map(({ key, records, merged }) => [key, records, merged?.added]),
    ]).toEqual([
      'kept',
      [
        ['patches', 2, 2],
        ['tasks', 30, undefined],
        ['chores', 30, undefined],
      ],
    ]);
    expect(
      await world.sql(
        `SELECT p.plot, p.number, (SELECT count(*)::int FROM records.tasks t WHERE t.plot = p.id) AS tasks, (SELECT count(*)::int FROM records.chores c WHERE c.plot = p.id) AS chores, (SELECT string_agg(change, ' ') FROM slate.history h WHERE h.record_id = p.id) AS trail FROM records.patches p WHERE p.plot IN ('Q99', 'Q200', 'q 200', 'Q201') ORDER BY p.number`,
      ),
    ).toEqual([
      { plot: 'Q99', number: expect.any(String) as string, tasks: 1, chores: 1, trail: null },
      { plot: 'Q200', number: expect.any(String) as string, tasks: 2, chores: 2, trail: 'made' },
      { plot: 'Q201', number: expect.any(String) as string, tasks: 1, chores: 1, trail: 'made' },
    ]);
  });

  it('does not where a record needs more than its name: rows that name it are refused', async () => {
    await world.sql(
      `INSERT INTO records.beds (code, name, section, area) SELECT 'N' || i, 'Bed ' || i, 'Rock terraces', i FROM generate_series(1, 12) i`,
    );
    const proposed = await brought({
      'Edging.csv': `Piece,Bed\n${Array.from({ length: 24 }, (_, i) => `E${i},${i === 7 ? 'N77' : `N${(i % 12) + 1}`}`).join('\n')}\n`,
    });
    expect(proposed.detection?.relations).toMatchObject([{ to: { sheet: 'Beds' }, missed: 1 }]);
    const refused = await kept(proposed, { adds: ['relation:Edging/Bed'] });
    expect([refused.state, refused.result?.refusals]).toMatchObject([
      'refused',
      [{ row: 9, column: 'Bed', text: 'N77', code: 'not-found-there' }],
    ]);
  });

  it('is looked for where the owner says, whatever was found', async () => {
    const proposed = await brought({
      'tags.csv': `Tag,Where\n${Array.from({ length: 20 }, (_, i) => `T${i},J${i % 3}`).join('\n')}\n`,
    });
    const [table] = await world.sql(
      `SELECT t.id, c.id AS "column" FROM slate.designed_table t JOIN slate.designed_column c ON c.table_id = t.id WHERE t.key = 'jobs' AND c.key = 'job'`,
    );
    const names = {
      to: { sheet: 'Jobs', column: 'Job' },
      table: { id: String(table?.['id']), column: String(table?.['column']) },
    };
    // Nobody learns by it what stands in a table they may not see.
    const grants = await world.sql('DELETE FROM slate.access_grant WHERE table_id = $1 RETURNING *', [
      table?.['id'],
    ]);
    const { version } = await must(
      decideImport(as('Ines'), proposed.id, {
        version: proposed.version,
        decisions: { ...noDecisions, columns: { 'tags/Where': { names } } },
      }),
    );
    expect(await refusal(acceptImport(as('Ines'), proposed.id, { version }))).toEqual({
      kind: 'not-found',
      what: 'table',
    });
    for (const grant of grants)
      await world.sql(
        'INSERT INTO slate.access_grant SELECT * FROM jsonb_populate_record(NULL::slate.access_grant, $1)',
        [JSON.stringify(grant)],
      );
    const done = await kept(await must(openImport(as('Ines'), proposed.id)), {
      columns: { 'tags/Where': { names } },
    });
    expect(done.state).toBe('kept');
    expect(
      await world.sql(
        `SELECT count(DISTINCT j.id)::int AS jobs, count(t.id)::int AS tags FROM records.tags t JOIN records.jobs j ON j.id = t."where"`,
      ),
    ).toEqual([{ jobs: 3, tags: 20 }]);
  });
});

describe('headings that stand elsewhere than was thought', () => {
  const sheet = [
    'Stock of the north shed,,',
    'kind,where,how much',
    'Tool,Shelf,Pieces',
    'spade,north,4',
    'rake,south,7',
    'hoe,north,2',
  ].join('\n');

  it('are said, and the sheet is read anew with them, without what was decided of the columns before', async () => {
    const proposed = await brought({ 'north_shed.csv': sheet, 'plain.csv': 'spade,4\nrake,7\nhoe,2\n' });
    const shed = proposed.detection?.sheets.find(({ name }) => name === 'north_shed');
    expect([shed?.headerRow, shed?.top?.slice(0, 3)]).toEqual([
      2,
      [
        { row: 1, text: 'Stock of the north shed' },
        { row: 2, text: 'kind · where · how much' },
        { row: 3, text: 'Tool · Shelf · Pieces' },
      ],
    ]);
    const { version } = await must(
      decideImport(as('Ines'), proposed.id, {
        version: proposed.version,
        decisions: {
          ...noDecisions,
          columns: { 'north_shed/kind': { leaveOut: true }, 'plain/Column 1': { label: 'Tool' } },
        },
      }),
    );
    expect(
      await refusal(
        readWithHeadings(as('Ines'), proposed.id, { version: version - 1, sheet: 'north_shed', row: 3 }),
      ),
    ).toMatchObject({ kind: 'stale' });
    expect(
      await refusal(readWithHeadings(as('Ines'), proposed.id, { version, sheet: 'north_shed', row: 40 })),
    ).toMatchObject({ kind: 'invalid' });
    expect(
      await refusal(readWithHeadings(as('Maren'), proposed.id, { version, sheet: 'north_shed', row: 3 })),
    ).toMatchObject({ kind: 'not-found' });
    await must(readWithHeadings(as('Ines'), proposed.id, { version, sheet: 'north_shed', row: 3 }));
    await readSheets(proposed.id);
    const again = await must(openImport(as('Ines'), proposed.id));
    expect(again.detection?.sheets.find(({ name }) => name === 'north_shed')).toMatchObject({
      headerRow: 3,
      rows: 3,
      columns: [{ name: 'Tool' }, { name: 'Shelf' }, { name: 'Pieces', kind: 'whole' }],
    });
    expect(again.decisions).toMatchObject({
      headings: { north_shed: 3 },
      columns: { 'plain/Column 1': { label: 'Tool' } },
    });
    const done = await kept(again);
    expect(done.result?.tables.map(({ key, records }) => [key, records])).toEqual([
      ['north_shed', 3],
      ['plain', 3],
    ]);
    expect(await world.sql('SELECT tool, pieces::int FROM records.north_shed ORDER BY tool LIMIT 1')).toEqual(
      [{ tool: 'hoe', pieces: 2 }],
    );
  });

  it('may be none at all: then the first row is a record too', async () => {
    const proposed = await brought({ 'words.csv': 'Fern,Shade\nMoss,Damp\nSedge,Wet\nHeather,Dry\n' });
    expect(proposed.detection?.sheets[0]?.headerRow).toBe(1);
    await must(
      readWithHeadings(as('Ines'), proposed.id, { version: proposed.version, sheet: 'words', row: 0 }),
    );
    await readSheets(proposed.id);
    const again = await must(openImport(as('Ines'), proposed.id));
    expect(again.detection?.sheets[0]).toMatchObject({
      headerRow: null,
      rows: 4,
      columns: [{ name: 'Column 1' }, { name: 'Column 2' }],
    });
    expect((await kept(again)).result?.tables).toMatchObject([{ key: 'words', records: 4 }]);
  });
});

describe('columns that tell every row together', () => {
  it('are kept so only when somebody says so, and then no two records share them', async () => {
    const text = `Bed,Held on,Guests\n${Array.from({ length: 24 }, (_, i) => `T${i % 6},2026-03-${String((Math.floor(i / 6) % 28) + 1).padStart(2, '0')},${(i * 7) % 5}`).join('\n')}\n`;
    const proposed = await brought({ 'bed_tours.csv': text });
    const [sheet] = proposed.detection?.sheets ?? [];
    const [proposal] = proposalsOf(
      proposed.detection ?? expect.fail('nothing detected'),
      sheet ?? expect.fail('no sheet'),
    ).filter(({ t }) => t === 'together');
    expect(proposal).toMatchObject({ columns: ['Bed', 'Held on'] });
    const accepted = answered(noDecisions, proposal ?? expect.fail('no proposal'), true);
    expect([
      isAccepted(noDecisions, proposal ?? expect.fail()),
      isAccepted(accepted, proposal ?? expect.fail()),
      answered(accepted, proposal ?? expect.fail(), false).accepted,
    ]).toEqual([false, true, []]);
    expect((await kept(await brought({ 'walks.csv': text }))).state).toBe('kept');
    expect((await kept(proposed, accepted)).state).toBe('kept');
    await world.sql(
      `INSERT INTO records.walks (bed, held_on, guests) SELECT bed, held_on, guests FROM records.walks LIMIT 1`,
    );
    await expect(
      world.sql(
        `INSERT INTO records.bed_tours (bed, held_on, guests) SELECT bed, held_on, guests FROM records.bed_tours LIMIT 1`,
      ),
    ).rejects.toMatchObject({ code: '23505' });
  });
});

describe('what does not fit', () => {
  const visits = `Bed;On\n${Array.from({ length: 30 }, (_, i) => `${i === 7 ? 'X99' : `x${i % 12}`};${i === 3 ? 'soon' : `${i + 1}.3.2026`}`).join('\n')}\n`;

  it('is refused with its place, and nothing is kept', async () => {
    const done = await kept(await brought({ 'plots.csv': beds, 'visits.csv': visits }));
    expect(done).toMatchObject({
      state: 'refused',
      result: {
        tables: [],
        refused: 2,
        refusals: [
          { sheet: 'visits', row: 5, column: 'On', text: 'soon', code: 'not-a-date' },
          { sheet: 'visits', row: 9, column: 'Bed', text: 'X99', code: 'not-found-there' },
        ],
      },
    });
    expect(await world.sql(`SELECT to_regclass('records.plots')::text AS there`)).toEqual([{ there: null }]);
    const rest = await kept(done, { refusedRows: 'keep-the-rest' });
    expect([
      rest.state,
      rest.result?.refused,
      rest.result?.tables.map(({ key, records }) => [key, records]),
    ]).toEqual([
      'kept',
      2,
      [
        ['plots', 12],
        ['visits', 28],
      ],
    ]);
  });

  it('is asked about where it could be read two ways', async () => {
    const asking = await brought({ 'trips.csv': 'No,On\n1,03/04/2026\n2,05/06/2026\n' });
    expect(await refusal(acceptImport(as('Ines'), asking.id, { version: asking.version }))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'missing', path: ['columns', 'trips/On'] }],
    });
    const done = await kept(asking, { columns: { 'trips/On': { dateOrder: 'mdy' } } });
    expect(done.state).toBe('kept');
    expect(await world.sql(`SELECT "on"::text AS day FROM records.trips ORDER BY number`)).toEqual([
      { day: '2026-03-04' },
      { day: '2026-05-06' },
    ]);
  });

  it('fails with a word when the file is none', async () => {
    expect(
      await brought({ 'picture.csv': Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 1, 2, 3, 4, 5]) }),
    ).toMatchObject({ state: 'failed', fault: { code: 'unknown-format' } });
  });
});

describe('decisions', () => {
  it('change numbered columns and groups as they change others', async () => {
    const proposed = await brought({
      'orders.csv': `No,Supplier,Phone,item1,qty1,item2,qty2\n${Array.from({ length: 24 }, (_, i) => `O${i},${['Acorn', 'Birch', 'Cedar'][i % 3]},${['01632 960111', '01632 960222', '01632 960333'][i % 3]},Tool ${i % 11},${i % 5},Tool ${i % 7},${i % 4}`).join('\n')}\n`,
    });
    const done = await kept(proposed, {
      columns: {
        'orders/item1': { label: 'Tool', kind: 'text' },
        'orders/qty1': { leaveOut: true },
        'orders/Supplier': { leaveOut: true },
        'orders/Phone': { kind: 'choice' },
      },
    });
    expect(done.result?.tables.map(({ key, records }) => [key, records])).toEqual([
      ['orders', 24],
      ['order_lines', 48],
    ]);
    const columns = async (table: string) =>
      (
        await world.sql(
          `SELECT string_agg(c.key || ' ' || c.kind, ', ' ORDER BY c.position) AS all FROM slate.designed_column c JOIN slate.designed_table t ON t.id = c.table_id WHERE t.key = $1`,
          [table],
        )
      )[0]?.['all'];
    expect([await columns('orders'), await columns('order_lines')]).toEqual([
      'no text, phone text',
      'tool text',
    ]);
  });
});

describe('an import', () => {
  it('belongs to who brought it, and only owners bring any', async () => {
    const mine = await brought({ 'some.csv': beds });
    expect(await refusal(openImport(as('Tomasz'), mine.id))).toMatchObject({ kind: 'not-found' });
    expect(
      await refusal(beginImport(as('Maren'), { id: newId(), files: [{ name: 'a.csv', bytes: 3 }] })),
    ).toMatchObject({ kind: 'forbidden', why: 'design' });
  });

  it('is not read because the application forgot to say who asks, or asks for somebody else', async () => {
    const { id } = await brought({ 'theirs.csv': beds });
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    const asking = (person: string) =>
      client
        .query(`SELECT set_config('slate.person', $1, false)`, [person])
        .then(() => client.query(`SELECT slate.ask_import_job('keep-import', $1)`, [id]));
    await expect(asking('')).rejects.toThrow('not their import');
    await expect(asking(as('Tomasz').person.id)).rejects.toThrow('not their import');
    await asking(as('Ines').person.id);
    await expect(client.query('SELECT * FROM graphile_worker.jobs')).rejects.toThrow('permission denied');
    await client.end();
  });

  it('can be cancelled, and is then not kept', async () => {
    const data = await brought({ 'gone.csv': beds });
    await must(acceptImport(as('Ines'), data.id, { version: data.version }));
    await must(cancelImport(as('Ines'), data.id));
    await keepImport(data.id);
    expect((await must(openImport(as('Ines'), data.id))).state).toBe('cancelled');
    expect(await world.sql(`SELECT to_regclass('records.gone')::text AS there`)).toEqual([{ there: null }]);
  });

  it('is not read before all of it is there, nor decided from an old page', async () => {
    const id = newId();
    await must(beginImport(as('Ines'), { id, files: [{ name: 'a.csv', bytes: 30 }] }));
    await must(bringPiece(as('Ines'), id, { file: 0, piece: 0, bytes: Buffer.from('half of it') }));
    expect(await refusal(readBrought(as('Ines'), id))).toMatchObject({
      kind: 'invalid',
      issues: [{ path: ['files', 0] }],
    });
    expect(
      await refusal(bringPiece(as('Ines'), id, { file: 0, piece: 1, bytes: Buffer.from('x') })),
    ).toMatchObject({ kind: 'invalid' });
    expect(
      await refusal(bringPiece(as('Ines'), id, { file: 3, piece: 0, bytes: Buffer.from('x') })),
    ).toMatchObject({ kind: 'not-found' });
    const data = await brought({ 'twice.csv': beds });
    await must(decideImport(as('Ines'), data.id, { version: data.version, decisions: noDecisions }));
    // The same again is a repeat whose answer was lost; anything else was drawn on an old page.
    const { version } = await must(
      decideImport(as('Ines'), data.id, { version: data.version, decisions: noDecisions }),
    );
    expect(version).toBe(data.version + 1);
    const other = { ...noDecisions, refusedRows: 'keep-the-rest' as const };
    expect(
      await refusal(decideImport(as('Ines'), data.id, { version: data.version, decisions: other })),
    ).toMatchObject({ kind: 'stale', why: 'import-changed' });
  });
});
