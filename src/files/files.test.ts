import { createWriteStream, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import ExcelJS from 'exceljs';
import fc from 'fast-check';
import Papa from 'papaparse';
import { afterAll, describe, expect, it } from 'vitest';
import yazl from 'yazl';
import type { Cell } from '../core/import/cell';
import { delimiterOf } from './csv';
import { encodingOf } from './decode';
import { RefusedFile } from './refused-file';
import { sheetsOf } from './sheets';

const folder = mkdtempSync(join(tmpdir(), 'slate-files-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
let count = 0;
function file(content: string | Buffer, name = `f${++count}.csv`): { path: string; name: string } {
  writeFileSync(join(folder, name), content);
  return { path: join(folder, name), name };
}
async function rowsOf(given: { path: string; name: string }): Promise<readonly (readonly Cell[])[]> {
  const rows: (readonly Cell[])[] = [];
  for await (const sheet of sheetsOf(given)) for await (const some of sheet.rows) rows.push(...some.rows);
  return rows;
}
const faultOf = (work: Promise<unknown>): Promise<unknown> =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof RefusedFile ? error.fault : error),
  );

describe('CSV in the wild', () => {
  const spectrum = join(import.meta.dirname, '../../node_modules/csv-spectrum');
  // What the package says of `location_coordinates` is not what its file holds.
  it.each(
    readdirSync(join(spectrum, 'csvs'))
      .map((name) => name.replace('.csv', ''))
      .filter((name) => name !== 'location_coordinates'),
  )('%s', async (name) => {
    const wanted = JSON.parse(readFileSync(join(spectrum, 'json', `${name}.json`), 'utf8')) as Record<
      string,
      string
    >[];
    const [header = [], ...rows] = await rowsOf({ path: join(spectrum, 'csvs', `${name}.csv`), name });
    expect(
      rows
        .filter((row) => row.length > 1)
        .map((row) => Object.fromEntries(header.map((key, i) => [key, row[i]]))),
    ).toEqual(wanted);
  });

  it('reads any table back as it was written', async () => {
    const cell = fc
      .string({ unit: fc.constantFrom('a', 'é', '"', ',', ';', '\n', ' ', '🌿', '1', "'", '\t') })
      .filter((text) => !text.includes('\r'));
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(cell, cell, cell), { minLength: 2, maxLength: 30 }),
        async (table) => {
          const text = Papa.unparse([['one', 'two', 'three'], ...table] as string[][], {
            quotes: true,
            newline: '\n',
          });
          expect((await rowsOf(file(text))).slice(1)).toEqual(table);
        },
      ),
      { numRuns: 60 },
    );
  });

  it.each(['utf-8', 'utf-8 with a mark', 'utf-16le', 'windows-1252'])(
    'reads %s the same, wherever a piece of the file ends',
    async (encoding) => {
      const letters = encoding === 'windows-1252' ? 'é€ß' : 'é漢🌿';
      const table = Array.from({ length: 30_000 }, (_, i) => [
        `${letters.repeat((i * 7) % 5)}${i}`,
        i % 3 === 0 ? `a "${letters}"\nb` : 'x'.repeat((i * 13) % 60),
        i % 11 === 0 ? '' : String(i),
      ]);
      const text = Papa.unparse([['one', 'two', 'three'], ...table], { newline: '\r\n' });
      const bytes =
        encoding === 'utf-16le'
          ? Buffer.from(`\ufeff${text}`, 'utf16le')
          : encoding === 'windows-1252'
            ? Buffer.from(text.replaceAll('€', '\u0080'), 'latin1')
            : Buffer.from(encoding === 'utf-8' ? text : `\ufeff${text}`);
      expect(bytes.length).toBeGreaterThan(1 << 20);
      const [header, ...rows] = await rowsOf(file(bytes));
      expect(header).toEqual(['one', 'two', 'three']);
      expect(JSON.stringify(rows) === JSON.stringify(table)).toBe(true);
    },
  );

  it('goes on with rows that are written in other ways than CSV is', async () => {
    const text = `one,two\n1,2\n"a" b,3\n4,"x, ""y""\nz"\n"5" ,6\n7,8`;
    expect(await rowsOf(file(text))).toEqual(Papa.parse(text, { delimiter: ',', newline: '\n' }).data);
    const long = `${'n,text\n'.repeat(60_000)}"a" b,3\n${'4,"x, y"\n'.repeat(60_000)}`;
    expect(
      JSON.stringify(await rowsOf(file(long))) ===
        JSON.stringify(Papa.parse(long, { delimiter: ',', newline: '\n' }).data.slice(0, -1)),
    ).toBe(true);
  });

  it('finds the sign between cells', () => {
    expect(
      ['a;b\n1,5;2,25\n', 'a\tb\n1\t2', 'a|b\n1|2', 'a,b\n"1;2;3",4\n5,6', 'one\ntwo\n'].map(delimiterOf),
    ).toEqual([';', '\t', '|', ',', ',']);
  });

  it('finds how letters are encoded', async () => {
    const text = 'Straße;Größe\nÄpfel;ç\n';
    const wide = Buffer.from(text, 'utf16le');
    const given: [Buffer, string][] = [
      [Buffer.from(text), 'utf-8'],
      [Buffer.from(`\ufeff${text}`), 'utf-8'],
      [Buffer.from(text, 'latin1'), 'windows-1252'],
      [Buffer.concat([Buffer.from([0xff, 0xfe]), wide]), 'utf-16le'],
      [wide, 'utf-16le'],
      [Buffer.concat([Buffer.from([0xfe, 0xff]), Buffer.from(wide).swap16()]), 'utf-16be'],
    ];
    for (const [content, encoding] of given) {
      const one = file(content);
      expect(await encodingOf(one.path)).toBe(encoding);
      expect(await rowsOf(one)).toEqual([['Straße', 'Größe'], ['Äpfel', 'ç'], ['']]);
    }
  });

  it('reads rows that lie across the pieces a file is streamed in', async () => {
    const lines = Array.from(
      { length: 60_000 },
      (_, i) => `${i},"Größe, row ""${i}""\nnext",🌿 ${'x'.repeat(i % 50)}`,
    );
    const rows = await rowsOf(file(`n,text,leaf\n${lines.join('\n')}`));
    expect(rows).toHaveLength(60_001);
    expect(
      rows
        .slice(1)
        .every(
          (row, i) =>
            row[0] === String(i) &&
            row[1] === `Größe, row "${i}"\nnext` &&
            row[2] === `🌿 ${'x'.repeat(i % 50)}`,
        ),
    ).toBe(true);
  });
});

describe('workbooks', () => {
  it('give numbers, days, times, yes and no as they are, and of formulas the values', async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('Beds');
    sheet.addRow(['Code', 'Area', 'On', 'At', 'Open', 'Sum', 'Share']);
    sheet.addRow([
      '007',
      18.5,
      new Date(Date.UTC(2026, 10, 23)),
      new Date(Date.UTC(1899, 11, 30, 14, 30)),
      true,
      { formula: 'B2*2', result: 37 },
      0.125,
    ]);
    sheet.getCell('C2').numFmt = 'dd/mm/yyyy';
    sheet.getCell('D2').numFmt = 'hh:mm';
    sheet.getCell('G2').numFmt = '0.0%';
    sheet.getCell('A4').value = { richText: [{ text: 'G' }, { text: '4' }] };
    book.addWorksheet('Empty');
    const path = join(folder, 'book.xlsx');
    await book.xlsx.writeFile(path);
    expect(await rowsOf({ path, name: 'book.xlsx' })).toEqual([
      ['Code', 'Area', 'On', 'At', 'Open', 'Sum', 'Share'],
      [
        '007',
        { kind: 'number', text: '18.5' },
        { kind: 'date', text: '2026-11-23' },
        { kind: 'time', text: '14:30:00' },
        { kind: 'yes-no', text: 'true' },
        { kind: 'number', text: '37' },
        '12.5%',
      ],
      ['G4'],
    ]);
  });
});

/** A workbook whose one sheet is this XML. */
async function workbookOf(rows: string): Promise<{ path: string; name: string }> {
  const path = join(folder, `w${++count}.xlsx`);
  const zip = new yazl.ZipFile();
  const put = (name: string, text: string) => zip.addBuffer(Buffer.from(text), name);
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  put(
    'xl/workbook.xml',
    `<workbook xmlns="${main}" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>`,
  );
  put(
    'xl/_rels/workbook.xml.rels',
    `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
  );
  put('xl/worksheets/sheet1.xml', `<worksheet xmlns="${main}"><sheetData>${rows}</sheetData></worksheet>`);
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(path));
  return { path, name: 'w.xlsx' };
}

describe('workbooks that lie', () => {
  const cell = (at: string) => `<c r="${at}" t="inlineStr"><is><t>x</t></is></c>`;
  it.each([
    ['about the number of a row', `<row r="999999999999">${cell('A1')}</row>`, 'broken-workbook'],
    ['about a row below the first', `<row r="-5">${cell('A1')}</row>`, 'broken-workbook'],
    ['about where a cell stands', `<row r="1">${cell('ZZZZZ1')}</row>`, 'broken-workbook'],
    ['and end in the middle', `<row r="1">${cell('A1')}</row><row r="2"><c r="A2"`, 'broken-workbook'],
  ])('%s are refused as broken, once', async (_, rows, fault) =>
    expect(await faultOf(rowsOf(await workbookOf(rows)))).toBe(fault),
  );
  it('are read when they do not', async () =>
    expect(await rowsOf(await workbookOf(`<row r="1">${cell('A1')}</row>`))).toEqual([['x']]));
});

describe('files made to harm', () => {
  it('are refused with a word, before they take the memory', async () => {
    expect(await faultOf(rowsOf(file('')))).toBe('empty');
    expect(
      await faultOf(
        rowsOf(file(Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0, 1, 2, 3]))),
      ),
    ).toBe('unknown-format');
    expect(await faultOf(rowsOf(file(Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1]))))).toBe(
      'protected-workbook',
    );
    expect(await faultOf(rowsOf(file('PK\u0003\u0004 and no more')))).toBe('broken-workbook');
    expect(await faultOf(rowsOf(file(`${'a,'.repeat(1_000_000)}b\n1,2\n`)))).toBe('too-many-columns');
    expect(await faultOf(rowsOf(file(`a,b\n1,"${'x'.repeat(6_000_000)}`)))).toBe('cell-too-long');
  });
});
