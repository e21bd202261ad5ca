import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { choices, choicesNamed, joinedLabels } from './choices';
import { listStored, storedList } from './stored-list';

const signs = [
  { code: 'wilt', label: 'Wilting' },
  { code: 'red', label: 'Red' },
  { code: 'dark', label: 'Red, dark' },
  { code: 'scale', label: 'Scale insects' },
];

describe('several choices', () => {
  it('are stored as PostgreSQL writes an array of texts, and read from that', () => {
    expect(storedList(['a', 'cut stem', '', 'NULL', 'say "so"', 'a\\b', '{x}', 'é\u00a0x'])).toBe(
      '{a,"cut stem","","NULL","say \\"so\\"","a\\\\b","{x}",é\u00a0x}',
    );
    expect(storedList([])).toBe(null);
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'grapheme' }), { minLength: 1, maxLength: 6 }), (list) => {
        expect(listStored(storedList(list) ?? '')).toEqual(list);
      }),
    );
  });

  it.each(['', 'a', '{a', '{a,}', '{,a}', '{a b}', '{a,,b}', '{"a}', '{a}{b}'])('%s is no array', (text) =>
    expect(listStored(text)).toBe(null),
  );

  it('are the same answer in whatever order they were chosen, and each once', () => {
    const read = (raw: string) => {
      const value = choices.read(raw, { choices: signs });
      return value.ok ? value.value : value.error.code;
    };
    expect(read('{scale,wilt,scale}')).toEqual(['wilt', 'scale']);
    expect(read('{}')).toBe(null);
    expect(read('{scale,rot}')).toBe('not-a-choice');
    expect(read('scale')).toBe('not-a-choice');
  });

  it('are named by their words or codes, the longest first', () => {
    const named = (text: string) => choicesNamed(text, signs);
    expect(named('Red, dark')).toEqual(['dark']);
    expect(named('red; Wilting')).toEqual(['wilt', 'red']);
    expect(named(' scale | WILT\nred, dark ')).toEqual(['wilt', 'dark', 'scale']);
    expect(named('Red dark')).toBe(null);
    expect(named('Wilting, mildew')).toBe(null);
    expect(named('Scale')).toEqual(['scale']);
    expect(named('')).toEqual([]);
    expect(joinedLabels(['Wilting', 'Red'])).toBe('Wilting, Red');
    expect(joinedLabels(['Wilting', 'Red, dark'])).toBe('Wilting; Red, dark');
  });
});
