import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { textOf } from '../../src/core/import/cell';
import { exportShown } from '../../src/use-cases/records/export-shown';
import { exportTable } from '../../src/use-cases/records/export-table';
import { profiled, sheetsOf } from '../../src/files/sheets';
import { detect } from '../../src/core/import/detect';
import { as, must, plantGarden, refusal, useWorld } from '../support/world';

const world = useWorld();
const folder = mkdtempSync(join(tmpdir(), 'slate-export-'));
beforeAll(async () => {
  await plantGarden(world);
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area, open_to_visitors) VALUES ('=1+1', 'Says "hello", twice', E'two\\nlines', 7.25, true), ('-3', '🌿 نبات', '', 0.5, false)`,
  );
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) SELECT 'Z' || n, 'Bed ' || n, 'House ' || n % 7, n FROM generate_series(1, 4500) n`,
  );
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
});

async function exported(
  key: string,
  format: 'csv' | 'xlsx' | 'json',
  who = 'Ines',
): Promise<{ path: string; name: string; bytes: Buffer }> {
  const { name, body } = await must(exportTable(as(who), key, format));
  const pieces: Uint8Array[] = [];
  for await (const piece of body) pieces.push(piece);
  const path = join(folder, name);
  writeFileSync(path, Buffer.concat(pieces));
  return { path, name, bytes: Buffer.concat(pieces) };
}

async function cells(file: { path: string; name: string }): Promise<string[][]> {
  const rows: string[][] = [];
  for await (const sheet of sheetsOf(file))
    for await (const some of sheet.rows) rows.push(...some.rows.map((row) => row.map(textOf)));
  return rows;
}

describe('what is shown, taken out', () => {
  const shown = async (query: Partial<Parameters<typeof exportShown>[3]>, who = 'Ines') => {
    const all = { find: '', where: '', sort: '-number', columns: '', ...query };
    const { name, body } = await must(exportShown(as(who), 'beds', 'csv', all));
    const pieces: Uint8Array[] = [];
    for await (const piece of body) pieces.push(piece);
    const path = join(folder, `shown-${name}`);
    writeFileSync(path, Buffer.concat(pieces));
    return cells({ path, name });
  };

  it('is the records that are found, in their order, with the columns that are shown, over many batches', async () => {
    const rows = await shown({
      where: 'area > 4',
      sort: 'section,-area',
      columns: 'area,code,created_at',
      find: 'House',
    });
    expect(rows[0]?.slice(1, 3)).toEqual(['Area (m²)', 'Code']);
    expect(rows[0]?.[3]).toBe('Made on');
    const codes = rows.slice(1).map((row) => row[2]);
    expect(codes).toHaveLength(new Set(codes).size);
    expect(codes.slice(0, 3)).toEqual(['G4-12', 'Z4494', 'Z4487']);
    // All but those of four square metres and less.
    expect(codes).toHaveLength(4_497);
  });

  it('is refused where it names what is not there', async () => {
    const asked = { find: '', where: '', sort: 'gone', columns: '' };
    expect(await refusal(exportShown(as('Ines'), 'beds', 'csv', asked))).toMatchObject({ kind: 'invalid' });
  });
});

describe('a table taken out', () => {
  it('as CSV has every record, and nothing a spreadsheet would carry out', async () => {
    const rows = await cells(await exported('beds', 'csv'));
    expect(rows[0]?.slice(1)).toEqual(['Code', 'Name', 'Section', 'Area (m²)', 'Open to visitors']);
    // Those made in the same millisecond come in any order.
    expect(rows.map((row) => row.slice(1))).toEqual(
      expect.arrayContaining([
        ['G4-12', 'Fern house, north bench', 'Fern house', '18.50', ''],
        [`'=1+1`, 'Says "hello", twice', 'two\nlines', '7.25', 'yes'],
        [`'-3`, '🌿 نبات', '', '0.50', 'no'],
      ]),
    );
    expect(rows.filter((row) => row.length > 1)).toHaveLength(4_504);
    expect(new Set(rows.map(([number]) => number)).size).toBe(rows.length);
  });

  it('as XLSX has numbers as numbers and texts as texts', async () => {
    const file = await exported('beds', 'xlsx');
    const rows = await cells(file);
    expect(rows.map((row) => row.slice(1))).toContainEqual([
      '=1+1',
      'Says "hello", twice',
      'two\nlines',
      '7.25',
      'true',
    ]);
    expect(detect(await profiled([file])).sheets[0]).toMatchObject({
      name: 'Beds',
      rows: 4_503,
      keys: [['Code'], ['Number'], ['Name']],
    });
  });

  it('as JSON keeps every digit', async () => {
    const rows = JSON.parse((await exported('products', 'json')).bytes.toString()) as Record<
      string,
      unknown
    >[];
    expect(rows).toHaveLength(2);
    expect(rows[0]).toMatchObject({
      name: 'Soft soap spray 2%',
      max_rate: '80.0',
      restricted: false,
      licence: null,
    });
    expect(JSON.parse((await exported('taxa', 'json')).bytes.toString())).toEqual([]);
  });

  it('is not given to those who may not see it', async () => {
    await world.sql(
      `DELETE FROM slate.access_grant WHERE table_id = (SELECT id FROM slate.designed_table WHERE key = 'taxa')`,
    );
    expect(await refusal(exportTable(as('Maren'), 'taxa', 'csv'))).toMatchObject({ kind: 'not-found' });
    const asked = { find: '', where: '', sort: 'name', columns: '' };
    expect(await refusal(exportShown(as('Maren'), 'taxa', 'csv', asked))).toMatchObject({
      kind: 'not-found',
    });
    expect(await refusal(exportTable(as('Maren'), 'nothing', 'csv'))).toMatchObject({ kind: 'not-found' });
  });
});
