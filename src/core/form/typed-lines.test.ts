import { describe, expect, it } from 'vitest';
import { typedLines } from './typed-lines';

const kinds = (text: string) => typedLines(text).map(({ label, kind }) => [label, kind]);

describe('questions from what is typed or pasted', () => {
  it('are one for each line or cell, of the kind the words speak for', () => {
    expect(kinds('How many plants?')).toEqual([['How many plants?', 'whole']]);
    expect(kinds('Name\n\n  When was it planted? \r\nNotes')).toEqual([
      ['Name', 'text'],
      ['When was it planted?', 'date'],
      ['Notes', 'text'],
    ]);
    expect(kinds('Name\tE-mail\tArea')).toEqual([
      ['Name', 'text'],
      ['E-mail', 'e-mail'],
      ['Area', 'decimal'],
    ]);
    expect(kinds(' \n\t\n')).toEqual([]);
  });

  it('are the columns of a block of cells, of the kind of the values under them', () => {
    const lines = typedLines(
      [
        'Plant\tPlanted\tCount\tState',
        'Aa\t2026-03-01\t3\talive',
        'Bb\t2026-04-11\t12\tlost',
        'Cc\t2026-04-12\t1\talive',
        'Dd\t2026-05-02\t7\talive',
      ].join('\n'),
    );
    expect(lines.map(({ label, kind }) => [label, kind])).toEqual([
      ['Plant', 'text'],
      ['Planted', 'date'],
      ['Count', 'whole'],
      ['State', expect.stringMatching(/choice|text/)],
    ]);
  });

  it('are no more than anybody would paste, and no longer than a label may be', () => {
    expect(typedLines(Array.from({ length: 500 }, (_, i) => `Question ${i}`).join('\n'))).toHaveLength(60);
    expect([...(typedLines('é'.repeat(5_000))[0]?.label ?? '')].length).toBe(200);
  });
});
