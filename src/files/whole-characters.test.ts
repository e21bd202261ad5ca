import fc from 'fast-check';
import { expect, it } from 'vitest';
import { WholeCharacters } from './whole-characters';

it('no piece ends within a character, and all of them are the text, however it is cut', async () => {
  const cuts = fc.array(fc.nat(200), { maxLength: 20 });
  await fc.assert(
    fc.asyncProperty(fc.string({ unit: 'binary', maxLength: 60 }), cuts, async (given, at) => {
      const text = given.toWellFormed();
      const bytes = Buffer.from(text);
      const through = new WholeCharacters();
      const places = [0, ...at.filter((one) => one < bytes.length).sort((a, b) => a - b), bytes.length];
      places.slice(1).forEach((end, i) => {
        const piece = bytes.subarray(places[i], end);
        if (piece.length > 0) through.write(piece);
      });
      through.end();
      const texts: string[] = [];
      for await (const piece of through) texts.push((piece as Buffer).toString('utf8'));
      expect(texts.join('')).toBe(text);
    }),
  );
});
