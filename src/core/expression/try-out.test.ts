import { beforeAll, describe, expect, it } from 'vitest';
import { worldOf } from '../../../tests/support/workspace';
import { loadPatterns } from './functions/patterns';
import { tryOut, type Trial } from './try-out';

const world = worldOf('2026-11-23T10:00:00');
function tried(trial: Trial): unknown {
  const found = tryOut(trial, world);
  const value = found.ok ? found.value.value() : found;
  return value.ok ? value.value : value.error.map(({ code, path }) => [code, ...path]);
}

beforeAll(loadPatterns);

describe('an expression tried out', () => {
  it.each<[Trial, unknown]>([
    [{ expression: 'rate * 2', context: { rate: 0.1 } }, 0.2],
    [{ expression: 'n + 1', types: { n: 'number' }, context: { n: '9007199254740992' } }, '9007199254740993'],
    [
      { expression: 'due + duration("P1M")', types: { due: 'date' }, context: { due: '2024-01-31' } },
      '2024-02-29',
    ],
    [{ expression: 'sum(lines.amount)', context: { lines: [{ amount: 1.5 }, { amount: 2 }] } }, 3.5],
    [
      {
        expression: 'lines[done].amount',
        types: { lines: [{ amount: 'number', done: 'boolean' }] },
        context: { lines: [{ amount: 1, done: true }, { amount: 2 }] },
      },
      [1],
    ],
    [{ expression: 'x = null', types: { x: 'list<date>' } }, true],
    [
      { expression: '{a: @"PT90M", b: [1..2]}' },
      { a: 'PT1H30M', b: { from: 1, to: 2, fromIncluded: true, toIncluded: true } },
    ],
    [{ expression: 'Monthly Salary / 2', context: { 'Monthly Salary': 10 } }, 5],
    [
      { expression: 'due > today()', types: { due: 'date' }, context: { due: '2026-02-30' } },
      [['wrong-type', 'context', 'due']],
    ],
    [
      {
        expression: 'sender.place = "Fern house" and sender = deputy',
        types: { sender: 'person', deputy: 'person' },
        context: { sender: { name: 'Tomasz', place: 'Fern house' }, deputy: { name: 'Tomasz' } },
      },
      true,
    ],
    [
      { expression: 'sender.place', types: { sender: 'person' }, context: { sender: { name: 'Wren' } } },
      null,
    ],
    [{ expression: 'sender > 3', types: { sender: 'person' } }, [['wrong-type']]],
    [{ expression: 'a', types: { a: 'person' }, context: { a: 'Tomasz' } }, [['wrong-type', 'context', 'a']]],
    [{ expression: 'a', types: { a: 'nonsense' } }, [['malformed', 'types', 'a']]],
    [{ expression: 'for i in 1..10000000 return i' }, [['too-many-steps']]],
    [{ expression: 'rate +' }, [['expression-broken']]],
  ])('%j', (trial, wanted) => expect(tried(trial)).toEqual(wanted));
});
