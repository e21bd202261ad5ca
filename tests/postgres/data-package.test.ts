import { afterAll, describe, expect, it } from 'vitest';
import { choiceLists, conditions, waysOfComing } from '../../demo/lists';
import { plainColumn, type Table } from '../../src/core/table/model';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { openImport } from '../../src/use-cases/imports/decide-import';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { takeOutTable, takeOutWorkspace } from '../../src/use-cases/records/export-table';
import { keepList } from '../../src/use-cases/lists/keep-list';
import { listLists } from '../../src/use-cases/lists/read-lists';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { brought, kept } from '../support/importing';
import {
  as,
  formIds,
  makeWorld,
  must,
  newId,
  plantGarden,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  type World,
} from '../support/world';
import { directory } from '../support/directory';
import { personNamed } from '../../demo/people';

let world: World;
afterAll(() => world.close());

async function bytes(download: { body: AsyncGenerator<Uint8Array> }): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of download.body) chunks.push(chunk);
  return Buffer.concat(chunks);
}

const designOf = async (key: string): Promise<Table> =>
  (await must(openTableDesign(as('Ines'), key))).table ?? expect.fail(`no table ${key}`);
const keys = async (): Promise<string[]> =>
  (await must(listTables(as('Ines')))).tables
    .map(({ key }) => key)
    .filter((key) => key !== directory.key)
    .sort();
const BROUGHT_IN = 'colleagues_brought_in';
const rowsOf = (key: string): Promise<Record<string, unknown>[]> =>
  world.sql(
    `SELECT to_jsonb(t) - 'created_by' - 'updated_by' - 'submission_id' - 'version' AS row FROM records.${key} t ORDER BY number`,
  );
const constraints = (): Promise<Record<string, unknown>[]> =>
  world.sql(
    `SELECT conrelid::regclass::text AS "from", confrelid::regclass::text AS "to", pg_get_constraintdef(oid) AS says FROM pg_constraint WHERE connamespace = 'records'::regnamespace AND contype IN ('f', 'u', 'c') AND coalesce(confrelid::regclass::text, '') || conrelid::regclass::text NOT LIKE '%colleagues%' ORDER BY 1, 2, 3`,
  );
const each = async <T>(list: readonly string[], of: (key: string) => Promise<T>): Promise<T[]> => {
  const found: T[] = [];
  for (const key of list) found.push(await of(key));
  return found;
};

async function change(table: Table): Promise<void> {
  const id = newId();
  const { version } = await must(
    saveTableChange(as('Ines'), id, {
      version: 0,
      base: table.version,
      redesign: { table, readings: {}, mends: {} },
    }),
  );
  await must(runTableChange(as('Ines'), id, { version }));
}

describe('a workspace as a Data Package', () => {
  it('reads back into an empty one as the same tables, records, numbers and references', async () => {
    world = await makeWorld();
    const garden = await plantGarden(world);
    for (const { id, ...list } of choiceLists) await must(keepList(as('Ines'), id, list));
    await releaseSampleForms();
    await world.sql(
      `INSERT INTO records.beds (code, name, section, area) VALUES ('=1+1', E'two\nlines, "quoted"', '''@x', 0), ('نبات 🌿', '-5', 'x', 12.25)`,
    );
    const beds = await designOf('beds');
    const kind = {
      ...plainColumn,
      id: 'cbedkind',
      key: 'kind',
      label: 'Kind',
      kind: 'choice' as const,
      choices: [
        { code: 'raised', label: 'Raised' },
        { code: 'old', label: 'Old', retired: true },
      ],
      default: '"raised"',
      description: 'What it is like',
    };
    const uses = {
      ...kind,
      id: 'cbeduses',
      key: 'uses',
      label: 'Uses',
      kind: 'choices' as const,
      default: '',
      choices: [...kind.choices, { code: 'a, "b"', label: 'Cut flowers' }],
    };
    const behind = {
      ...plainColumn,
      id: 'cbedback',
      key: 'behind',
      label: 'Behind',
      kind: 'reference' as const,
      target: beds.id,
    };
    await change({
      ...beds,
      numbering: 'running',
      prefix: 'BD',
      together: [['cbedname', 'cbedhouse']],
      columns: [...beds.columns.filter(({ id }) => id !== 'cbedopen'), kind, uses, behind],
      retired: beds.columns.filter(({ id }) => id === 'cbedopen'),
    });
    await world.sql(
      `UPDATE records.beds SET kind = 'old', uses = ARRAY['raised', 'a, "b"'], behind = $1 WHERE code = '=1+1'`,
      [garden.bed],
    );
    await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    await world.sql(`INSERT INTO records.treatments (bed, planned_on) VALUES ($1, '2026-11-25')`, [
      garden.bed,
    ]);
    await world.sql(
      `INSERT INTO records.treatment_lines (parent_id, position, product, rate) SELECT id, 1, $1, -0.5 FROM records.treatments`,
      [garden.soap],
    );
    await world.sql(
      `INSERT INTO records.inspections (bed, inspected_on, condition, plants_lost, pests_seen, cared_for_by) VALUES ($1, '2026-11-20', 'fair', 0, true, $2)`,
      [garden.bed, personNamed('Maren').id],
    );
    await world.sql(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [personNamed('Maren').id]);
    const there = await keys();
    const before = {
      designs: await each(there, designOf),
      rows: await each(there, rowsOf),
      constraints: await constraints(),
    };
    const all = await bytes(await must(takeOutWorkspace(as('Ines'))));
    const one = await bytes(await must(takeOutTable(as('Ines'), 'treatments', 'package')));
    await world.close();

    world = await makeWorld([]);
    const proposed = await brought({ 'workspace-package.zip': all });
    expect(proposed.detection?.packaged?.map(({ table }) => table.key).sort()).toEqual(
      [...there, BROUGHT_IN].sort(),
    );
    const done = await kept(proposed);
    expect([done.state, done.fault, done.result?.tables.find(({ key }) => key === 'beds')?.records]).toEqual([
      'kept',
      null,
      3,
    ]);
    // The people of there are a table of their own here, and are named as they were; also those who have left.
    const strangers = (await designOf(BROUGHT_IN)).id;
    const plain = (tables: readonly Table[]) =>
      JSON.parse(
        JSON.stringify(tables.map((table) => ({ ...table, version: 0 }))).replaceAll(strangers, directory.id),
      ) as unknown;
    expect(await keys()).toEqual([...there, BROUGHT_IN].sort());
    expect(
      await world.sql(
        `SELECT p.name FROM records.inspections i JOIN records.${BROUGHT_IN} p ON p.id = i.cared_for_by`,
      ),
    ).toEqual([{ name: personNamed('Maren').name }]);
    expect(plain(await each(there, designOf))).toEqual(plain(before.designs));
    expect(await each(there, rowsOf)).toEqual(before.rows);
    expect(await constraints()).toEqual(before.constraints);
    expect(
      (await must(listLists(as('Ines')))).lists.map(({ id, label, choices }) => ({ id, label, choices })),
    ).toEqual([conditions, waysOfComing].map(({ id, label, choices }) => ({ id, label, choices })));
    await world.sql(`INSERT INTO records.beds (code, name, section, area) VALUES ('next', 'n', 's', 1)`);
    expect(await world.sql(`SELECT number, kind FROM records.beds WHERE code = 'next'`)).toEqual([
      { number: 'BD-0004', kind: 'raised' },
    ]);

    // What is there already is said, and what one table needs comes with it.
    expect(await brought({ 'again.zip': one })).toMatchObject({
      state: 'failed',
      fault: { code: 'tables-there', facts: { tables: expect.stringContaining('Beds') as string } },
    });
    await world.close();
    world = await makeWorld([]);
    expect((await kept(await brought({ 'treatments-package.zip': one }))).state).toBe('kept');
    expect(await keys()).toEqual(['beds', 'products', 'treatment_lines', 'treatments']);
  }, 60_000);

  it('that was tampered with is refused with a word, and nothing is made', async () => {
    const zip = await bytes(await must(takeOutTable(as('Ines'), 'beds', 'package')));
    await world.close();
    world = await makeWorld([]);
    const { default: yazl } = await import('yazl');
    const repacked = async (files: Readonly<Record<string, string>>): Promise<Buffer> => {
      const made = new yazl.ZipFile();
      for (const [name, text] of Object.entries(files)) made.addBuffer(Buffer.from(text), name);
      made.end();
      const chunks: Buffer[] = [];
      for await (const chunk of made.outputStream) chunks.push(chunk as Buffer);
      return Buffer.concat(chunks);
    };
    const table = (await brought({ 'beds.zip': zip })).detection?.packaged?.[0]?.table;
    const descriptor = (part: object): string =>
      JSON.stringify({ resources: [{ path: 'data/beds.csv', slateTable: { ...table, ...part } }] });
    expect(
      await brought({ 'a.zip': await repacked({ 'datapackage.json': '{"resources": "none"}' }) }),
    ).toMatchObject({ state: 'failed', fault: { code: 'broken-package' } });
    expect(
      await brought({
        'b.zip': await repacked({
          'datapackage.json': JSON.stringify({
            resources: [{ path: '../../etc/passwd', slateTable: table }],
          }),
        }),
      }),
    ).toMatchObject({ state: 'failed', fault: { code: 'broken-package' } });
    const broken: Readonly<Record<string, string>>[] = [
      { 'datapackage.json': descriptor({}) },
      { 'datapackage.json': descriptor({}), 'data/beds.csv': 'id,number\r\n1,2\r\n' },
      { 'datapackage.json': descriptor({ key: 'beds"; DROP TABLE x' }), 'data/beds.csv': 'id\r\n' },
    ];
    for (const files of broken) {
      const { id } = await kept(await brought({ 'c.zip': await repacked(files) }));
      expect(await must(openImport(as('Ines'), id))).toMatchObject({
        state: 'failed',
        fault: { code: 'broken-package' },
      });
    }
    expect(await keys()).toEqual([]);
  }, 60_000);
});

describe('the SQL of a table', () => {
  it('makes one like it in a plain database', async () => {
    await kept(
      await brought({
        'plots.csv': `Plot,Kind,On\n${Array.from({ length: 30 }, (_, i) => `P${i},${['wet', 'dry', "it's \\"][i % 3]},2026-01-${String(i + 1).padStart(2, '0')}`).join('\n')}\n`,
      }),
    );
    const text = (await bytes(await must(takeOutTable(as('Ines'), 'plots', 'sql')))).toString('utf8');
    await world.sql(`CREATE SCHEMA elsewhere; SET search_path = elsewhere; ${text} RESET search_path`);
    const columns = (schema: string) =>
      world.sql(
        `SELECT column_name AS name, data_type AS type, is_nullable AS empty FROM information_schema.columns WHERE table_schema = $1 AND table_name = 'plots' AND column_name IN ('plot', 'kind', 'on', 'id', 'number') ORDER BY 1`,
        [schema],
      );
    expect(await columns('elsewhere')).toEqual(await columns('records'));
    expect(await columns('elsewhere')).toHaveLength(5);
  });
});
