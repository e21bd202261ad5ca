import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { expect, it } from 'vitest';
import { xlsxSheets } from './xlsx';

it('a text is the same wherever its file is cut into pieces: letters of two, three and four bytes', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'slate-xlsx-'));
  const path = join(folder, 'texts.xlsx');
  const texts = Array.from({ length: 20_000 }, (_, i) => `${'a'.repeat(i % 5)}é${i}نبات🌿東の温室`);
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Ünï 🌿');
  for (const text of texts) sheet.addRow([text]);
  await book.xlsx.writeFile(path);
  const read: unknown[] = [];
  const names: string[] = [];
  for await (const { name, rows } of xlsxSheets(path)) {
    names.push(name);
    for await (const some of rows) for (const row of some.rows) read.push(row[0]);
  }
  rmSync(folder, { recursive: true });
  expect(names).toEqual(['Ünï 🌿']);
  expect(read).toEqual(texts);
});
