import { describe, expect, it } from 'vitest';
import { NUMBER, TEXT, type Scope } from '../expression/type';
import { cellText, typedTest } from './rule-cells';
import type { Known } from './test-words';

const scope: Scope = new Map([
  ['cost', { id: 'qcost', type: NUMBER }],
  ['finance', { id: 'qfin', type: TEXT }],
  ['centre', { id: 'qcen', type: TEXT }],
]);
const cost = { id: 'co', expression: 'qcost' };
const centre = { id: 'ce', expression: 'qcen' };
const number: Known = { type: NUMBER };
const choices: Known = {
  type: TEXT,
  choices: [
    { code: 'fin', label: 'Finance' },
    { code: 'nur', label: 'Nursery' },
  ],
};
const text: Known = { type: TEXT };

describe('what is typed into a cell', () => {
  it.each([
    ['any', cost, number, ''],
    [' - ', cost, number, ''],
    ['> 5', cost, number, '> 5'],
    ['over 5 000', cost, number, '> 5000'],
    ['5,000', cost, number, '5000'],
    ['5, 7', cost, number, '5, 7'],
    ['<= cost * 2', cost, number, '<= qcost * 2'],
    ['finance', centre, choices, '"fin"'],
    ['not nursery', centre, choices, 'not("nur")'],
    ['"nur"', centre, choices, '"nur"'],
    ['finance', centre, text, 'qfin'],
    ['Somewhere else', centre, text, '"Somewhere else"'],
    ['"Somewhere"', centre, text, '"Somewhere"'],
    ['starts with(?, "N")', centre, choices, 'starts with(?, "N")'],
  ])('“%s” is kept as a test', (typed, condition, known, stored) => {
    expect(typedTest(typed, condition, scope, known)).toEqual({ ok: true, value: stored });
  });

  it('is refused with its place, or with what is offered', () => {
    expect(typedTest('> cots', cost, scope, number)).toMatchObject({
      ok: false,
      error: [{ code: 'unknown-name', facts: { from: 2, to: 6 } }],
    });
    expect(typedTest('Garage', centre, scope, choices)).toMatchObject({
      ok: false,
      error: [{ code: 'rule-choice-unknown', facts: { text: 'Garage', choices: 'Finance, Nursery' } }],
    });
  });

  it('stands there in words where it has them', () => {
    const row = {
      id: 'r',
      cells: [
        { condition: 'co', test: '(500..qcost]' },
        { condition: 'ce', test: '"nur", "fin"' },
      ],
      gives: [],
    };
    expect(cellText(row, cost, scope, number)).toBe('(500..cost]');
    expect(cellText(row, centre, scope, choices)).toBe('Nursery, Finance');
    expect(cellText(row, { id: 'other', expression: 'qcost' }, scope, number)).toBe('any');
  });
});
