import { describe, expect, it } from 'vitest';
import { counts, narrowed, notNarrowed, type Waiting } from './narrowed';

const waiting = (title: string, number: string, more: Partial<Waiting> = {}): Waiting => ({
  title,
  number,
  sender: 'Maren Solheim',
  senderPlace: 'Fern house',
  gist: '',
  step: 'Lead',
  due: null,
  unusual: [],
  ...more,
});
const late = { day: '2026-11-20', late: true } as Waiting['due'];
const list = [
  waiting('Treatment', 'TR-1', { due: late }),
  waiting('Treatment', 'TR-2', { gist: 'Écaille on the undersides', unusual: ['reasons'] }),
  waiting('Supply', 'SR-1', { sender: 'Kofi Renwick', unusual: ['said'], due: late }),
  waiting('Treatment', 'TR-3'),
];
const numbers = (by: Partial<typeof notNarrowed>) =>
  narrowed(list, { ...notNarrowed, ...by }).map(({ number }) => number);

describe('what waits, narrowed down', () => {
  it('is all of it at first, and keeps its order', () =>
    expect(numbers({})).toEqual(['TR-1', 'TR-2', 'SR-1', 'TR-3']));

  it('holds each word somewhere, case and accents aside', () => {
    expect(numbers({ words: 'ecaille  TREAT' })).toEqual(['TR-2']);
    expect(numbers({ words: 'fern' })).toHaveLength(4);
    expect(numbers({ words: 'kofi tr-1' })).toEqual([]);
    expect(numbers({ words: '  ' })).toHaveLength(4);
  });

  it('is of one form, late, or with something unusual', () => {
    expect(numbers({ title: 'Supply' })).toEqual(['SR-1']);
    expect(numbers({ only: 'late' })).toEqual(['TR-1', 'SR-1']);
    expect(numbers({ only: 'unusual', title: 'Treatment' })).toEqual(['TR-2']);
    expect(numbers({ only: 'usual' })).toEqual(['TR-1', 'TR-3']);
  });

  it('says how many there would be, with the rest of the narrowing applied', () => {
    expect(counts(list, notNarrowed)).toEqual({
      titles: [
        ['Treatment', 3],
        ['Supply', 1],
      ],
      only: { late: 2, unusual: 2, usual: 2 },
    });
    expect(counts(list, { words: '', title: 'Treatment', only: 'late' })).toEqual({
      titles: [
        ['Supply', 1],
        ['Treatment', 1],
      ],
      only: { late: 1, unusual: 1, usual: 2 },
    });
  });
});
