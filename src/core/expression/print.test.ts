import { describe, expect, it } from 'vitest';
import { seeded } from '../../../demo/random';
import { randomExpression, scopeOfRecord } from '../../../tests/support/random-expression';
import { print } from './print';
import { read } from './read';
import { storedScope, toShown, toStored } from './stored-text';
import { children, type Expression } from './tree';
import type { Scope } from './type';

/** A tree without its places in the text, and without slots, which count from the first. */
const bare = (tree: Expression): unknown =>
  JSON.parse(
    JSON.stringify(tree, (key, value: unknown) =>
      key === 'span' || key === 'slot' || value instanceof Map ? undefined : value,
    ),
  );

function treeOf(text: string, scope: Scope = scopeOfRecord): Expression {
  const tree = read(text, scope);
  if (!tree.ok) throw new Error(`${text}\n${JSON.stringify(tree.error)}`);
  return tree.value;
}

describe('law: what is printed reads back as the same tree', () => {
  it('whatever the expression', () => {
    const random = seeded(23);
    for (let i = 0; i < 200; i++) {
      const text = randomExpression(
        random,
        random.pick(['number', 'text', 'yes-no', 'date', 'time', 'date-time', 'days', 'months']),
        4,
        { sql: false },
      );
      if (text.length > 1_900) continue;
      const tree = treeOf(text);
      expect(bare(treeOf(print(tree)))).toEqual(bare(tree));
    }
  });

  it.each([
    '(num_a + num_b) * 2',
    'num_a - (num_b - 1)',
    'num_a - num_b - 1',
    '-(num_a ** 2)',
    '(-num_a) ** 2',
    '(-2) ** num_a',
    'num_a ** (num_b ** 2)',
    'not(yes_a or yes_b) and yes_a',
    '(yes_a or yes_b) and yes_a',
    '(if yes_a then num_a else num_b) + 1',
    'for x in lines, y in [1, 2] return x.amount * y',
    'some x in lines satisfies x.done and yes_a',
    '{a: 1, "b c": {d: 2}}.a',
    '[1, 2, 3][item > 1]',
    'lines[amount > 1][1].label',
    'lines[item.amount > num_a].price',
    'num_a in (> 3, [1..2), 7)',
    'num_a in [1, 2]',
    'num_a in [1..5] and yes_a or yes_b',
    'yes_b and num_a in [1..5]',
    'yes_a and num_a in (5) or num_b in (6)',
    'num_a in [1] or yes_a and num_b in [2] and yes_b',
    'num_a in (num_b)',
    '(num_a in (1)) = yes_a',
    'yes_a instance of boolean',
    '(lines.amount) instance of list<number>',
    'day_a + duration("P1M")',
    '@"2026-01-01" < day_a',
    'for i in 0..4 return if i = 0 then 1 else partial[-1] * i',
    '"say \\"hi\\" \\\\ \\n"',
    'day_a.year',
    '(day_a - day_b).days',
    'date("2026-02-30")',
    'null',
    '-5',
    '2 - -5',
    '(num_a = num_b) = yes_a',
    'num_a between (num_b + 1) and 3',
    '(yes_a and yes_b) = yes_a',
    'during(num_a, [1..5])',
    'num_a in [(num_b)..7]',
  ])('%s', (text) => {
    const tree = treeOf(text);
    expect(bare(treeOf(print(tree)))).toEqual(bare(tree));
  });
});

describe('kept by id', () => {
  const renamed: Scope = new Map(
    [...scopeOfRecord].map(([key, field]) => [key, key === 'num_a' ? { ...field, id: 'q1' } : field]),
  );
  const afterwards: Scope = new Map(
    [...renamed].map(([key, field]) => [key === 'num_a' ? 'rate' : key, field]),
  );

  it('shows the new key everywhere after a renaming, inside loops and filters too', () => {
    const stored = toStored(
      'num_a + sum(lines[amount > num_a].price) + count(for x in lines return x.amount * num_a)',
      renamed,
    );
    expect(stored).toBe('q1 + sum(lines[amount > q1].price) + count(for x in lines return x.amount * q1)');
    expect(toShown(stored, afterwards)).toBe(
      'rate + sum(lines[amount > rate].price) + count(for x in lines return x.amount * rate)',
    );
  });

  it('is read by id, so that a key that comes to mean two things changes nothing', () => {
    const columns = scopeOfRecord.get('lines')?.type;
    if (columns?.t !== 'rows') throw new Error('no rows');
    const clash: Scope = new Map([
      ['amount', { id: 'q1', type: { t: 'number' } }],
      [
        'lines',
        {
          id: 'lines',
          type: { ...columns, columns: new Map([['amount', { id: 'c1', type: { t: 'number' } }]]) },
        },
      ],
    ]);
    const tree = treeOf('lines[c1 > q1]', storedScope(clash));
    expect(tree.op === 'filter' && children(tree.where).map((side) => ('id' in side ? side.id : ''))).toEqual(
      ['c1', 'q1'],
    );
  });
});
