import { describe, expect, it } from 'vitest';
import { design, full, sheetOf, SOAP, tables } from '../../../tests/support/designs';
import { groupsOf } from '../form/design';
import { scopeOf } from '../form/scope';
import { explained } from './explained';
import { valueWords } from './with-values';

const group = groupsOf(design)[0]!;
const inRows = scopeOf(design, tables, group);
const row = (id: string, rate: string) => ({ id, cells: { qtrproduct: SOAP, qtrrate: rate } });
const sheet = sheetOf({ ...full, rows: { qtrlines: [row('r1', '20'), row('r2', '90')] } });
const told = (text: string, rows = true) => {
  const found = explained(sheet, text, rows ? inRows : scopeOf(design, tables), rows ? group : null);
  return (
    found && { row: found.row, parts: found.parts.map((one) => [one.depth, one.text, valueWords(one.value)]) }
  );
};

describe('an expression on a sheet', () => {
  it('is told for the row that breaks it, each piece with its value', () => {
    expect(told('rate <= product.max_rate')).toEqual({
      row: 'b',
      parts: [
        [0, 'rate <= product.max_rate', 'no'],
        [1, 'rate', '90'],
        [1, 'product.max_rate', '80'],
      ],
    });
    expect(told('rate * 2 <= 180 and rate > 0')?.row).toBe('a');
  });

  it('says a piece once, leaves out what stands as it is, and the branch that was not taken', () => {
    expect(told('if rate > 100 then rate * 2 else rate + rate')?.parts).toEqual([
      [0, 'if rate > 100 then rate * 2 else rate + rate', '40'],
      [1, 'rate > 100', 'no'],
      [2, 'rate', '20'],
      [1, 'rate + rate', '40'],
    ]);
  });

  it('does not tell what has a value only while a list is gone through', () => {
    const name = group.key;
    const { parts = [] } = told(`every line in ${name} satisfies line.rate < 100 and 2 > 1`, false) ?? {};
    expect(parts.map(([, text]) => text)).toEqual([
      `every line in ${name} satisfies line.rate < 100 and 2 > 1`,
      name,
      '2 > 1',
    ]);
  });

  it('is nothing while it cannot be read, or no row is filled', () => {
    expect(told('rate <=')).toBeNull();
    expect(explained(sheetOf({ ...full, rows: {} }), 'rate > 1', inRows, group)).toBeNull();
  });
});
