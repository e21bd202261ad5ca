import fc from 'fast-check';
import { expect, it } from 'vitest';
import { slipsOf } from './slips-of';

const asPattern = (like: string): RegExp => {
  const text = like.replaceAll(
    /\\(.)|(_)|([\s\S])/gu,
    (_, kept: string, any: string | undefined, one: string) =>
      any === undefined ? (kept ?? one).replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&') : '[\\s\\S]',
  );
  return new RegExp(text, 'u');
};
const finds = (word: string, text: string): boolean =>
  slipsOf(word).some((slip) => asPattern(slip).test(text));

it('finds a word with one letter wrong, missing, too many or swapped', () => {
  for (const slip of ['frond', 'fromd', 'frnd', 'frrond', 'forndd'.slice(0, 5), 'frodn'])
    expect([slip, finds(slip, 'a frond of it')]).toEqual([slip, true]);
  expect(finds('frxxd', 'a frond of it')).toBe(false);
});

it('is a law for every word', () => {
  const words = fc.stringMatching(/^[a-z%_\\]{4,12}$/);
  fc.assert(
    fc.property(words, fc.nat(11), fc.constantFrom('a', '_', '%', '\\'), (word, at, letter) => {
      const i = at % word.length;
      const slips = [
        word.slice(0, i) + letter + word.slice(i + 1),
        word.slice(0, i) + word.slice(i + 1),
        word.slice(0, i) + letter + word.slice(i),
      ];
      for (const slip of slips) expect([slip, finds(slip, `x ${word} y`)]).toEqual([slip, true]);
    }),
  );
});
