import { describe, expect, it } from 'vitest';
import { convertedBy, readableText, Titles } from './convert-column';
import { plainColumn, type Column } from './model';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});

describe('a record is found by its title or number', () => {
  const titles = new Titles();
  titles.add('1', 'Fern house, north', 'B-0001');
  titles.add('2', 'Palm court', 'B-0002');
  titles.add('3', 'palm  COURT', 'B-0003');
  it('without case, spaces and accents, and never by one that two share', () => {
    expect([
      titles.find(' férn house,  NORTH'),
      titles.find('b-0002'),
      titles.find('Palm court'),
      titles.find(''),
    ]).toEqual(['1', '2', null, null]);
  });

  it('and mended where it is not', () => {
    const read = convertedBy(
      {
        before: column('ca'),
        column: column('ca', { kind: 'reference', target: 'x', required: true }),
        reading: {},
        mends: { Fernhaus: 'B-0001', '': 'Fern house, north' },
      },
      titles.find,
      'UTC',
    );
    expect([read('Fernhaus'), read(''), read('Palm court')]).toMatchObject([
      { value: '1' },
      { value: '1' },
      { code: 'not-found-there' },
    ]);
  });
});

describe('a value on its way into another kind', () => {
  const from = (before: Partial<Column>, after: Partial<Column>, text: string, reading = {}) => {
    const read = convertedBy(
      { before: column('ca', before), column: column('ca', after), reading, mends: {} },
      () => null,
      'UTC',
    )(text);
    return 'value' in read ? read.value : read.code;
  };

  it('is read as people see it', () => {
    const choices = [{ code: 'g', label: 'Growing on' }];
    const shown = (of: Partial<Column>, stored: string | null) =>
      readableText(column('ca', of), (id) => `record ${id}`)(stored);
    expect([
      shown({ kind: 'choice', choices }, 'g'),
      shown({ kind: 'choice', choices }, 'old'),
      shown({ kind: 'yes-no' }, 't'),
      shown({ kind: 'yes-no' }, 'true'),
      shown({ kind: 'yes-no' }, 'f'),
      shown({ kind: 'reference', target: 'x' }, '7'),
      shown({}, 'true'),
      shown({ kind: 'choice', choices }, null),
    ]).toEqual(['Growing on', 'old', 'Yes', 'Yes', 'No', 'record 7', 'true', '']);
  });

  it('keeps the codes that are offered before and after, of one choice or several', () => {
    const old = [
      { code: 'w', label: 'Wilting' },
      { code: 'r', label: 'Red, dark' },
      { code: 's', label: 'Scale' },
    ];
    const now = [
      { code: 's', label: 'Scale insects' },
      { code: 'w', label: 'Wilted' },
    ];
    const one = { kind: 'choice' as const, choices: old };
    const several = { kind: 'choices' as const, choices: old };
    expect(readableText(column('ca', several), () => '')('{w,r}')).toBe('Wilting; Red, dark');
    expect([
      from(one, { kind: 'choices', choices: now }, 'Wilting'),
      from(several, { kind: 'choices', choices: now }, 'Wilting, Scale'),
      from(several, { kind: 'choice', choices: now }, 'Scale'),
      from(several, { kind: 'choice', choices: now }, 'Wilting, Scale'),
      from(several, { kind: 'choices', choices: now }, 'Wilting; Red, dark'),
      from(one, { kind: 'choices', choices: now }, ''),
      from({}, { kind: 'choices', choices: now }, 'wilted; scale insects'),
      from(several, {}, 'Wilting, Scale'),
    ]).toEqual(['{w}', '{s,w}', 's', 'not-a-choice', 'not-a-choice', null, '{s,w}', 'Wilting, Scale']);
  });

  it('was written with a point where it was a number, whatever sign people use', () => {
    const comma = { decimalSign: ',' as const };
    expect(from({ kind: 'decimal', decimals: 2 }, { kind: 'decimal', decimals: 1 }, '12.50', comma)).toBe(
      '12.50',
    );
    expect(from({}, { kind: 'decimal', decimals: 2 }, '12,50', comma)).toBe('12.50');
    expect(from({}, { kind: 'decimal', decimals: 1, unit: 'ml' }, '12.5 ml')).toBe('12.5');
  });

  it('keeps the code of a choice that both have, by its old words', () => {
    const [old, fresh] = [
      [
        { code: 'a', label: 'Seed' },
        { code: 'b', label: 'Spore' },
      ],
      [
        { code: 'a', label: 'Seeds' },
        { code: 'c', label: 'Spore' },
      ],
    ];
    const of = (text: string) =>
      from({ kind: 'choice', choices: old }, { kind: 'choice', choices: fresh }, text);
    expect([of('Seed'), of('Spore')]).toEqual(['a', 'c']);
  });

  it('need not name a record where it may be left empty', () => {
    expect(from({}, { kind: 'reference', target: 'x' }, '  ')).toBeNull();
    expect(from({}, { kind: 'reference', target: 'x', required: true }, ' ')).toBe('required');
    expect(from({}, { kind: 'reference', target: 'x' }, 'Nowhere')).toBe('not-found-there');
  });
});
