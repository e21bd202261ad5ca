import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import { designIssues } from './design-issues';
import { compileForm, worstStepsOf, type CompiledForm } from './compile-form';
import { baseTables, tableId } from '../../../demo/tables';
import { limits } from '../limits';
import type { FieldQuestion, FormDesign, Question, RowsQuestion, Section } from './design';
import { readBlock } from './read-block';

/** What is known of a form before anybody fills it: what reads what, what is asked when, what it costs, and where it is wrong. */
const tables = new Map(baseTables.map((table) => [table.id, table]));
const base = (id: string) => ({ id, key: id, label: id.toUpperCase(), hint: '', required: false });
const number = (id: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'whole',
  unit: '',
  ...more,
});
const text = (id: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'text',
  long: false,
  ...more,
});
const sum = (id: string, expression: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'calculated',
  expression,
  decimals: 0,
  unit: '',
  ...more,
});
const target = (n: number) => ({ id: tableId(n), key: `t${n}`, label: `Table ${n}`, prefix: `T${n}` });
const lines = (columns: readonly FieldQuestion[], more: Partial<RowsQuestion> = {}): RowsQuestion => ({
  ...base('lines'),
  kind: 'rows',
  columns,
  least: 0,
  most: 20,
  totals: [],
  table: target(92),
  ...more,
});
const section = (id: string, questions: readonly Question[], showWhen?: string): Section => ({
  id,
  title: `Section ${id}`,
  questions,
  ...(showWhen !== undefined && { showWhen }),
});
const form = (sections: readonly Section[], more: Partial<FormDesign> = {}): FormDesign => ({
  format: 1,
  title: 'A form',
  area: '',
  sections,
  checks: [],
  steps: [],
  table: target(91),
  ...more,
});
function compiled(design: FormDesign): CompiledForm {
  const made = compileForm(design, tables);
  if (!made.ok) throw new Error(JSON.stringify(made.error));
  return made.value;
}
const issuesOf = (design: FormDesign, people: readonly string[] = []) =>
  designIssues(design, tables, new Set(people)).map(({ code, path, facts }) => ({ code, path, facts }));
const check = (id: string, on: string, must: string, message = 'No.') => ({
  id,
  on,
  must,
  message,
  otherwise: 'stop' as const,
});
const bed: FieldQuestion = { ...base('bed'), kind: 'lookup', table: tableId(1), show: ['cbedcode'] };

const whole = (): FormDesign =>
  form(
    [
      section('s1', [
        number('a'),
        number('b', { askWhen: 'a > 1', requireWhen: 'a > 2' }),
        sum('c', 'a + b'),
      ]),
      section(
        's2',
        [
          bed,
          number('area', { carry: { lookup: 'bed', column: 'cbedarea', keep: 'following' } }),
          lines(
            [
              number('n'),
              number('m', { askWhen: 'n > 3' }),
              sum('nm', 'n * m'),
              sum('share', 'n + sum(lines.n)'),
              sum('by_a', 'n + a'),
            ],
            { totals: [{ id: 'all', key: 'all', label: 'All', column: 'nm' }], askWhen: 'a > 4' },
          ),
        ],
        'a > 5',
      ),
      section('s3', [text('d')]),
    ],
    {
      checks: [check('k1', 'c', 'c < 100'), check('k2', 'm', 'm < 10'), check('k3', 'a', 'count(lines) < 5')],
    },
  );

describe('a form made ready', () => {
  it('asks a question while its section is shown and its own condition is true, and what is in rows also by their own', () => {
    const { conditions, isCondition } = compiled(whole());
    expect(Object.fromEntries(conditions)).toEqual({
      b: ['b:asked'],
      bed: ['s2:asked'],
      area: ['s2:asked'],
      lines: ['s2:asked', 'lines:asked'],
      m: ['m:asked'],
      all: ['s2:asked', 'lines:asked'],
    });
    expect([...isCondition].sort()).toEqual(['b:asked', 'lines:asked', 'm:asked', 's2:asked']);
  });

  it('has formulas for all that is worked out, each after what it reads, in the rows it stands in', () => {
    const { formulas } = compiled(whole());
    const at = (id: string) => formulas.findIndex((one) => one.id === id);
    expect(formulas.map(({ id, group, what }) => [id, group, what.t]).sort()).toEqual(
      [
        ['s2:asked', null, 'asked'],
        ['b:asked', null, 'asked'],
        ['b:require', null, 'required'],
        ['c', null, 'calculated'],
        ['lines:asked', null, 'asked'],
        ['m:asked', 'lines', 'asked'],
        ['nm', 'lines', 'calculated'],
        ['share', 'lines', 'calculated'],
        ['by_a', 'lines', 'calculated'],
        ['area', null, 'following'],
        ['all', null, 'total'],
        ['k1', null, 'check'],
        ['k2', 'lines', 'check'],
        ['k3', null, 'check'],
      ].sort(),
    );
    for (const { id, reads } of formulas)
      for (const read of reads) if (at(read) >= 0) expect([id, at(read) < at(id)]).toEqual([id, true]);
    expect(
      formulas
        .filter(({ wide }) => wide)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(['all', 'k3', 'share']);
  });

  it('knows who reads an answer, with the conditions under which it is asked', () => {
    const { formulas, readers } = compiled(whole());
    const reading = (id: string) => (readers.get(id) ?? []).map((i) => formulas[i]?.id).sort();
    expect(reading('a')).toEqual(['b:asked', 'b:require', 'by_a', 'c', 'lines:asked', 's2:asked']);
    expect(reading('b:asked')).toEqual(['c']);
    expect(reading('bed')).toEqual(['area']);
    expect(reading('s2:asked')).toEqual(['all', 'area', 'by_a', 'k2', 'k3', 'm:asked', 'nm', 'share']);
    expect(reading('m:asked')).toEqual(['k2', 'nm']);
    expect(reading('c')).toEqual(['k1']);
    expect(reading('d')).toEqual([]);
  });

  it('knows what is worked out anew when a row comes or goes', () => {
    const { formulas, groupReaders } = compiled(whole());
    expect((groupReaders.get('lines') ?? []).map((i) => formulas[i]?.id).sort()).toEqual([
      'all',
      'by_a',
      'k2',
      'k3',
      'm:asked',
      'nm',
      'share',
    ]);
    expect([...groupReaders.keys()]).toEqual(['lines']);
  });

  it('knows each field with its rows, and the columns of other tables it reads', () => {
    const { fields, groups, columnsRead } = compiled(whole());
    expect([...fields].map(([id, { group }]) => [id, group])).toEqual([
      ['a', null],
      ['b', null],
      ['c', null],
      ['bed', null],
      ['area', null],
      ['n', 'lines'],
      ['m', 'lines'],
      ['nm', 'lines'],
      ['share', 'lines'],
      ['by_a', 'lines'],
      ['d', null],
    ]);
    expect([...groups.keys()]).toEqual(['lines']);
    expect([...columnsRead].map(([table, columns]) => [table, [...columns]])).toEqual([
      [tableId(1), ['cbedarea']],
    ]);
    const read = compiled(form([section('s', [bed, sum('x', 'bed.cbedarea * 2')])]));
    expect([...(read.columnsRead.get(tableId(1)) ?? [])]).toEqual(['cbedarea']);
    // What is carried from something that is no lookup is carried from nothing.
    const none = compiled(
      form([
        section('s', [
          number('a'),
          number('x', { carry: { lookup: 'a', column: 'cbedarea', keep: 'copied' } }),
        ]),
      ]),
    );
    expect([...none.columnsRead]).toEqual([]);
  });

  it('reads the record that is followed, and adds up what is there of a column', () => {
    const { formulas } = compiled(whole());
    const run = (id: string, read: unknown, column: unknown = []) =>
      formulas.find((one) => one.id === id)?.run({ read: () => read, column: () => column } as never);
    const record = (values: object) => ({ id: 'r', title: '', values });
    expect(run('area', record({ cbedarea: new Big(3) }))).toEqual(new Big(3));
    expect(run('area', record({}))).toBeNull();
    expect(run('area', null)).toBeNull();
    expect(String(run('all', null, [new Big(2), null, 'x', new Big(5)]))).toBe('7');
  });

  it('costs each formula once for every row there may be', () => {
    const once = compiled(form([section('s', [number('a'), sum('x', 'a + 1')])]));
    const inRows = compiled(form([section('s', [lines([number('n'), sum('x', 'n + 1')], { most: 20 })])]));
    expect(inRows.costs.get('x')).toBe((once.costs.get('x') ?? 0) * 20);
    expect(worstStepsOf(inRows)).toBe(inRows.costs.get('x'));
    const over = (most: number) =>
      compiled(form([section('s', [lines([number('n')], { most }), sum('x', 'sum(lines.n)')])])).costs.get(
        'x',
      ) ?? 0;
    expect(over(40)).toBeGreaterThan(over(20));
    expect(compiled(whole()).costs.has('all')).toBe(false);
  });

  it('says whether patterns have to be loaded', () => {
    expect(compiled(whole()).usesPatterns).toBe(false);
    const matched = form([section('s', [text('d')])], { checks: [check('k', 'd', 'matches(d, "^A")')] });
    expect(compiled(matched).usesPatterns).toBe(true);
    const other = form([section('s', [text('d')])], { checks: [check('k', 'd', 'contains(d, "A")')] });
    expect(compiled(other).usesPatterns).toBe(false);
  });
});

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

describe('a block of texts over rows', () => {
  const rows = form([
    section('s', [
      lines([number('n'), sum('x', 'n + 1'), { ...bed, id: 'where', key: 'where' }, text('word')]),
    ]),
  ]);
  const record = { id: '01900000-0000-7000-b000-000000000001', title: 'G4', values: {} };
  const read = (at: readonly [string, string, string], block: readonly (readonly string[])[]) => {
    let made = 0;
    const there = [{ id: 'r1' }, { id: 'r2' }] as never;
    return readBlock(compiled(rows), there, at, block, {
      newId: () => `new${++made}`,
      found: (question, words) => (question === 'where' && words === 'G4' ? record : null),
    });
  };

  it('goes over those there are and adds the rest, passing over what is worked out', () => {
    expect(
      read(
        ['lines', 'r2', 'n'],
        [
          ['5', '9', ' G4 ', 'up', 'beside'],
          ['6', '', 'nowhere', 'down', ''],
        ],
      ),
    ).toEqual({
      rows: [
        { id: 'r2', at: null, cells: { n: '5', where: record.id, word: 'up' } },
        { id: 'new1', at: 2, cells: { n: '6', where: 'nowhere', word: 'down' } },
      ],
      records: [[tableId(1), record]],
      left: 2,
    });
    expect(read(['lines', 'r1', 'where'], [['G4']]).rows).toEqual([
      { id: 'r1', at: null, cells: { where: record.id } },
    ]);
  });

  it('goes nowhere from a place that is gone', () => {
    const nothing = { rows: [], records: [], left: 3 };
    const block = [['1', '2'], ['3']];
    expect(read(['lines', 'gone', 'n'], block)).toEqual(nothing);
    expect(read(['lines', 'r1', 'gone'], block)).toEqual(nothing);
    expect(read(['gone', 'r1', 'n'], block)).toEqual(nothing);
  });
});
