import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import {
  bed,
  check,
  compiled,
  form,
  lines,
  number,
  section,
  sum,
  text,
} from '../../../tests/support/small-form';
import { tableId } from '../../../demo/tables';
import { worstStepsOf } from './compile-form';
import type { FormDesign } from './design';

/** What is known of a form before anybody fills it: what reads what, what is asked when, and what it costs. */
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
