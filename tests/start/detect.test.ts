import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, describe, expect, it } from 'vitest';

const project = join(import.meta.dirname, '../..');
const folder = mkdtempSync(join(tmpdir(), 'slate-detect-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Printed {
  readonly sheets: readonly {
    readonly name: string;
    readonly headerRow: number;
    readonly rows: number;
    readonly keys: string[][];
    readonly columns: readonly {
      readonly name: string;
      readonly kind: string;
      readonly personal: string | null;
    }[];
    readonly repeatedGroups: readonly { readonly by: string; readonly columns: string[] }[];
    readonly numberedColumns: readonly { readonly times: number; readonly rows: number }[];
  }[];
  readonly relations: readonly {
    readonly from: string;
    readonly to: string;
    readonly covered: number;
    readonly missed: number;
    readonly misses: readonly { readonly row: number; readonly text: string }[];
  }[];
}

/** As somebody outside runs it, from a folder of their own. */
async function detected(...files: string[]): Promise<Printed> {
  const { stdout } = await promisify(execFile)(
    'npm',
    ['run', '-s', '--prefix', project, 'detect', '--', ...files],
    { cwd: folder, env: { ...process.env, INIT_CWD: folder }, maxBuffer: 1 << 24 },
  );
  return JSON.parse(stdout) as Printed;
}

describe('npm run -s detect', () => {
  it('says of the garden’s old workbook what import would propose', async () => {
    const { sheets, relations } = await detected(join(project, 'demo/quillmere-sheets.xlsx'));
    expect(sheets.map(({ name, headerRow, keys }) => [name, headerRow, keys[0]])).toEqual([
      ['Beds', 3, ['Code']],
      ['Plant names', 1, ['Name']],
      ['Deliveries', 1, undefined],
      ['Products', 1, ['Name']],
      ['Treatments', 1, ['No']],
      ['Inspections', 1, undefined],
    ]);
    expect(sheets[2]?.repeatedGroups).toMatchObject([{ by: 'Supplier', columns: ['Phone', 'Town'] }]);
    expect(sheets[4]?.numberedColumns).toMatchObject([{ times: 3 }]);
    expect(
      sheets[5]?.columns
        .filter(({ personal }) => personal !== null)
        .map(({ name, personal }) => [name, personal]),
    ).toEqual([
      ['Inspected by', 'name'],
      ['E-mail', 'e-mail'],
    ]);
    expect(relations.map(({ from, to, missed }) => [from, to, missed])).toEqual([
      ['Deliveries.Product', 'Products.Name', 0],
      ['Deliveries.Licence', 'Products.Licence', 0],
      ['Treatments.Bed', 'Beds.Code', 0],
      ...[1, 2, 3].map((n) => [`Treatments.Product ${n}`, 'Products.Name', 0]),
      ['Inspections.Bed', 'Beds.Code', 0],
    ]);
  });

  it('finds relations between files, and says what stands where one is missed', async () => {
    writeFileSync(
      join(folder, 'beds.csv'),
      `code;area\n${Array.from({ length: 12 }, (_, i) => `G${i};${i},5`).join('\n')}\n`,
    );
    writeFileSync(
      join(folder, 'visits.csv'),
      `bed,on\n${Array.from({ length: 30 }, (_, i) => `${i === 17 ? 'G77' : ` g${i % 12}`},2026-03-${String(i + 1).padStart(2, '0')}`).join('\n')}\n`,
    );
    expect((await detected('beds.csv', 'visits.csv')).relations).toEqual([
      {
        from: 'visits.bed',
        to: 'beds.code',
        covered: 12,
        missed: 1,
        misses: [{ row: 19, text: 'G77' }],
        tolerant: 12,
        alongWith: null,
      },
    ]);
  });

  it('refuses what it cannot read with a sentence', async () => {
    writeFileSync(join(folder, 'empty.csv'), '');
    await expect(detected('empty.csv')).rejects.toMatchObject({
      code: 1,
      stdout: '{"refused":[{"code":"empty","message":"The file is empty"}]}\n',
    });
    await expect(detected('nowhere.csv')).rejects.toMatchObject({
      code: 1,
      stdout: expect.stringContaining('"missing"') as string,
    });
  });
});
