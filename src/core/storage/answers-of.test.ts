import { expect, it } from 'vitest';
import { full, sheetOf } from '../../../tests/support/designs';
import { answersOf } from './answers-of';
import { editsOf } from './rows-to-edits';
import { rowsToWrite } from './rows-to-write';

it('gives the answers a record was made of, and those give the record again', () => {
  const sheet = sheetOf(full);
  const row = rowsToWrite(sheet);
  let count = 0;
  const { edits, origins } = editsOf(row, { id: 'record', number: 'TR-1' }, () => `row${++count}`);
  const [own, ...inner] = edits;
  const answers = answersOf(sheet.form.design, {
    values: own?.values ?? {},
    rows: new Map([[inner[0]?.table ?? '', inner]]),
  });
  expect(Object.values(answers.rows)[0]?.map(({ id }) => id)).toEqual(['row1', 'row2']);
  expect(inner.map(({ parent }) => parent)).toEqual([
    { id: 'record', position: 1 },
    { id: 'record', position: 2 },
  ]);
  expect(own).toMatchObject({ t: 'add', table: row.table, id: 'record', number: 'TR-1', parent: null });
  expect(inner[0]).toMatchObject({ t: 'add', id: 'row1', number: null });
  expect(origins.get('record')).toEqual({ table: row.table, row: null });
  expect(Object.keys(answers.values)).not.toContain('qtrlines');
  // A record without rows has none, and not what is missing.
  expect(Object.values(answersOf(sheet.form.design, { values: {}, rows: new Map() }).rows)).toEqual([[]]);
  expect(origins.get('row2')).toEqual({ table: inner[0]?.table, row: 'r2' });
  // What is calculated comes out as it was, for it follows from what is typed.
  expect(answers.values).not.toHaveProperty('qtrbedarea');
  // Its rows go by their records now.
  const rows = row.rows.map((one, i) => ({ ...one, row: `row${i + 1}` }));
  expect(rowsToWrite(sheetOf(answers))).toEqual({ ...row, rows });
});
