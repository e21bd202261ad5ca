import { expect, it } from 'vitest';
import { form, lines, number, section, sum } from '../../../tests/support/small-form';
import { read, resolvedNames } from '../expression/read';
import { groupsOf, type FormDesign } from './design';
import { scopeOf } from './scope';

const tables = new Map();
const whole = (label = 'A'): FormDesign =>
  form([section('s1', [number('a', { label }), number('b'), lines([number('n'), sum('m', 'n + a')])])]);

it('goes on with its names while only words change, and has others once a name is another', () => {
  const before = whole();
  const scope = scopeOf(before, tables);
  const [group] = groupsOf(before);
  const inRow = scopeOf(before, tables, group);
  expect(inRow).not.toBe(scope);
  expect([...inRow.keys()]).toEqual(['sender', 'a', 'b', 'lines', 'n', 'm']);

  const worded = whole('Another word');
  expect(scopeOf(worded, tables)).toBe(scope);
  expect(scopeOf(worded, tables, groupsOf(worded)[0])).toBe(inRow);
  expect(scopeOf(worded, new Map())).not.toBe(scope);

  const renamed = form([section('s1', [number('a'), number('b', { key: 'c' })])]);
  expect([...scopeOf(renamed, tables).keys()]).toEqual(['sender', 'a', 'c']);
  // What was read with the names of before says nothing of what may be read now.
  expect(read('b + 1', scopeOf(renamed, tables)).ok).toBe(false);
  expect(read('b + 1', scopeOf(whole(), tables)).ok).toBe(true);
});

it('tells the same of a text each time, and spoils nothing by what is done with it', () => {
  const scope = scopeOf(whole(), tables);
  const first = read('a +', scope);
  if (!first.ok) first.error.pop();
  expect(read('a +', scope)).toMatchObject({ ok: false, error: [{ code: expect.any(String) }] });
  expect(resolvedNames('a + b', scope).map(({ id }) => id)).toEqual(['a', 'b']);
  for (let i = 0; i < 600; i++) expect(read(`a + ${i}`, scope).ok).toBe(true);
  expect(resolvedNames('a + b', scope)).toHaveLength(2);
});
