import { describe, expect, it } from 'vitest';
import { owned } from './cell';
import { Remembered } from './remembered';

describe('what was calculated for a text', () => {
  it('is calculated once, and again when too much else came between', () => {
    const asked: string[] = [];
    const remembered = new Remembered((text) => (asked.push(text), text.length), 0);
    expect([remembered.get('spade'), remembered.get('spade'), remembered.get('')]).toEqual([5, 5, 0]);
    expect(asked).toEqual(['spade']);
    for (let i = 0; i < 5_000; i++) remembered.get(`tool ${i}`);
    remembered.get('spade');
    expect(asked.filter((text) => text === 'spade')).toHaveLength(2);
  });

  it('is given up where nothing comes twice, and stays right', () => {
    let worked = 0;
    const remembered = new Remembered((text) => (worked++, text.length), 0);
    for (let i = 0; i < 30_000; i++) expect(remembered.get(`code ${i}`)).toBe(`code ${i}`.length);
    const before = worked;
    remembered.get('code 29999');
    expect(worked).toBe(before + 1);
  });

  it('is kept under a text that is the same, letter for letter', () => {
    for (const text of ['short', 'long enough to be a view of another', '🌿 نبات und Größe, alles zusammen'])
      expect(owned(text)).toBe(text);
  });
});
