import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { toShown, toStored } from './stored-text';
import { NUMBER, type Field, type Scope } from './type';

const named = (keys: Record<string, string>, fields: Record<string, string> = {}): Scope =>
  new Map<string, Field>([
    ...Object.entries(keys).map(([key, id]): [string, Field] => [key, { id, type: NUMBER }]),
    [
      'product',
      {
        id: 'qprod',
        type: {
          t: 'record',
          table: 't',
          fields: new Map(Object.entries(fields).map(([key, id]) => [key, { id, type: NUMBER }])),
        },
      },
    ],
  ]);

describe('expressions are kept by ids', () => {
  const scope = named({ rate: 'q1rate', area: 'q2area' }, { max_rate: 'c9max' });

  it('writes ids for keys, also behind a dot, and leaves the rest as it is', () => {
    expect(toStored('rate * area <= product.max_rate  and  "rate" != other', scope)).toBe(
      'q1rate * q2area <= qprod.c9max  and  "rate" != other',
    );
  });

  it('prints the keys there are today, so that a rename breaks nothing', () => {
    const stored = toStored('rate * area', scope);
    expect(toShown(stored, named({ dose: 'q1rate', area: 'q2area' }))).toBe('dose * area');
  });

  it('keeps what does not parse, and what it does not know', () => {
    expect(toShown(toStored('rate * ', scope), scope)).toBe('rate * ');
    expect(toStored('area.rate', scope)).toBe('q2area.rate');
  });

  it('print after store is nothing', () => {
    const piece = fc.constantFrom(
      'rate',
      'area',
      'product.max_rate',
      '1',
      '+',
      '*',
      '(',
      ')',
      ' ',
      '<=',
      'sum(',
      '"rate"',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const text = pieces.join(' ');
        expect(toShown(toStored(text, scope), scope)).toBe(text);
      }),
    );
  });
});
