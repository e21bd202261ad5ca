import { describe, expect, it } from 'vitest';
import { check, form, lines, number, section, sum, tables, target } from '../../../tests/support/small-form';
import { tableId } from '../../../demo/tables';
import { limits } from '../limits';
import type { FieldQuestion, FormDesign } from './design';
import { designIssues } from './design-issues';

const issuesOf = (design: FormDesign, people: readonly string[] = []) =>
  designIssues(design, tables, new Set(people)).map(({ code, path, facts }) => ({ code, path, facts }));

describe('where a form is wrong', () => {
  const two = (one: FieldQuestion, more: Partial<FormDesign> = {}) =>
    form([section('s', [number('a'), one])], more);
  it('is told at the setting it is wrong in', () => {
    const paths = (design: FormDesign) => issuesOf(design).map(({ code, path }) => [code, ...path]);
    expect(paths(two(number('b', { askWhen: '1 + 1' })))).toEqual([['result-type', 'b', 'askWhen']]);
    expect(paths(two(number('b', { requireWhen: '"yes"' })))).toEqual([['result-type', 'b', 'requireWhen']]);
    expect(paths(form([section('s', [number('a')], 'a')]))).toEqual([['result-type', 's', 'showWhen']]);
    expect(paths(two(sum('b', 'a >')))).toEqual([['expression-broken', 'b']]);
    expect(issuesOf(two(sum('b', 'a = 1')))).toEqual([
      { code: 'result-type', path: ['b'], facts: { given: 'yes-no', wanted: 'number' } },
    ]);
  });

  it('names the circle where things are worked out of one another', () => {
    const circle = (...questions: FieldQuestion[]) =>
      issuesOf(form([section('s', questions)])).find(({ code }) => code === 'circular');
    expect(circle(sum('x', 'y + 1'), sum('y', 'x + 1'))).toEqual({
      code: 'circular',
      path: ['x'],
      facts: { circle: 'X → Y → X' },
    });
    expect(circle(number('a'), number('b', { askWhen: 'c > 1' }), sum('c', 'b + a'))).toMatchObject({
      path: ['b', 'askWhen'],
      facts: { circle: 'whether “B” is asked → C → whether “B” is asked' },
    });
    const shown = issuesOf(form([section('s', [number('a'), sum('c', 'a + 1')], 'c > 1')]));
    expect(shown).toMatchObject([
      {
        code: 'circular',
        path: ['s', 'showWhen'],
        facts: { circle: expect.stringContaining('whether “Section s” is asked') },
      },
    ]);
  });

  it('counts what may not be more', () => {
    const many = (n: number, of: (id: string) => FieldQuestion = (id) => number(id)) =>
      Array.from({ length: n }, (_, i) => of(`q${i}`));
    expect(issuesOf(form([section('s', many(limits.questions))]))).toEqual([]);
    expect(issuesOf(form([section('s', many(limits.questions + 1))]))).toEqual([
      { code: 'too-many', path: ['sections'], facts: { what: 'questions', most: limits.questions } },
    ]);
    expect(issuesOf(form([section('s', [lines(many(limits.columns))])]))).toEqual([]);
    expect(issuesOf(form([section('s', [lines(many(limits.columns + 1))])]))).toEqual([
      { code: 'too-many', path: ['lines'], facts: { what: 'columns', most: limits.columns } },
    ]);
    const rows = (least: number, most: number) =>
      issuesOf(form([section('s', [lines([number('n')], { least, most })])]));
    expect(rows(5, 5)).toEqual([]);
    expect(rows(0, limits.rows)).toEqual([]);
    expect(rows(6, 5)).toEqual([{ code: 'row-limits', path: ['lines'], facts: { most: limits.rows } }]);
    expect(rows(0, limits.rows + 1)).toEqual([
      { code: 'row-limits', path: ['lines'], facts: { most: limits.rows } },
    ]);
  });

  it('is told with what was given', () => {
    const keyed = (key: string) => issuesOf(two({ ...number('b'), key }));
    expect(keyed('Not a key')).toContainEqual({
      code: 'key-invalid',
      path: ['b', 'key'],
      facts: { key: 'Not a key', most: limits.key },
    });
    expect(keyed('a')).toContainEqual({ code: 'key-taken', path: ['b', 'key'], facts: { key: 'a' } });
    expect(keyed('created_at')).toContainEqual({
      code: 'key-reserved',
      path: ['b', 'key'],
      facts: { key: 'created_at' },
    });
    const stored = (more: object) =>
      issuesOf(form([section('s', [number('a')])], { table: { ...target(91), ...more } }));
    expect(stored({ prefix: 'no prefix' })).toEqual([
      { code: 'prefix-invalid', path: ['store', tableId(91)], facts: { prefix: 'no prefix' } },
    ]);
    expect(stored({ key: '9' })).toEqual([
      { code: 'key-invalid', path: ['store', tableId(91)], facts: { key: '9', most: limits.key } },
    ]);
    expect(stored({ label: '' }).map(({ code, path }) => [code, ...path])).toEqual([
      ['label-missing', 'store', tableId(91)],
    ]);
    expect(issuesOf(form([section('s', [number('a')])], { title: ' ' })).map(({ path }) => path)).toEqual([
      ['title'],
    ]);
  });

  it('is told of steps that nobody, or only somebody unknown, decides', () => {
    const step = (people: readonly string[], label = 'Lead') => ({ id: 'p', label, people });
    const decided = (...args: Parameters<typeof step>) =>
      issuesOf(two(number('b'), { steps: [step(...args)] as never }), ['ines']);
    expect(decided(['ines'])).toEqual([]);
    expect(decided([])).toEqual([
      { code: 'approver-missing', path: ['steps', 'p'], facts: { step: 'Lead' } },
    ]);
    expect(decided(['ines', 'nobody'])).toEqual([
      { code: 'approver-unknown', path: ['steps', 'p'], facts: { step: 'Lead' } },
    ]);
    expect(decided(['ines'], '').map(({ path }) => path)).toEqual([['steps', 'p']]);
  });

  it('is told of checks without a word or a place, which may be a column or a total', () => {
    const rows = lines([number('n')], { totals: [{ id: 'all', key: 'all', label: 'All', column: 'n' }] });
    const checked = (...checks: ReturnType<typeof check>[]) =>
      issuesOf(form([section('s', [number('a'), rows])], { checks })).map(({ code, path }) => [
        code,
        ...path,
      ]);
    expect(
      checked(check('k1', 'n', 'n > 1'), check('k2', 'all', 'all > 1'), check('k3', 'lines', 'a > 1')),
    ).toEqual([]);
    expect(checked(check('k1', 'gone', 'a > 1'))).toEqual([['check-place', 'checks', 'k1']]);
    expect(checked(check('k1', 'a', 'a > 1', '  '))).toEqual([['check-message-missing', 'checks', 'k1']]);
  });
});
