import fc from 'fast-check';
import { expect, it } from 'vitest';
import { matchedParts } from './matched-parts';

const shown = (text: string, search: string): string =>
  matchedParts(text, search)
    .map((part) => (part.matches ? `[${part.text}]` : part.text))
    .join('');

it('marks every word that was searched for, wherever it stands', () => {
  expect(shown('G4-12 · Fern house', 'fern g4')).toBe('[G4]-12 · [Fern] house');
  expect(shown('Fernhouse, old fern', 'FERN')).toBe('[Fern]house, old [fern]');
  expect(shown('Säge für Äste', 'sage aste')).toBe('[Säge] für [Äste]');
  expect(shown('aaa', 'aa')).toBe('[aaa]');
  expect(shown('Anything', '')).toBe('Anything');
  expect(shown('', 'x')).toBe('');
});

it('loses no letter of the text', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (text, search) => {
      expect(
        matchedParts(text, search)
          .map((part) => part.text)
          .join(''),
      ).toBe(text);
    }),
  );
});
