import { describe, expect, it } from 'vitest';
import { compileForm } from '../compile-form';
import { design, tables } from '../../../../tests/support/designs';
import { allQuestions, groupsOf, type RowsQuestion } from '../design';
import {
  addSection,
  dissolveSection,
  duplicateQuestion,
  nudgeQuestion,
  placeQuestion,
  withinRows,
} from './arrange';
import * as small from '../../../../tests/support/small-form';
import { removeQuestion } from '../edit';
import { designIssues } from '../design-issues';
import { freshCopy } from './fresh-copy';
import { keptInTable } from './kept-in';
import { tablesOf } from '../../storage/tables-of';

const target = {
  id: '01900000-0000-7000-8000-000000000009',
  key: 'more_lines',
  label: 'More lines',
  prefix: 'ML',
};
const [section] = design.sections;
const home = section?.id ?? '';
const ids = (of = design) => of.sections.flatMap(({ questions }) => questions.map(({ id }) => id));
const lines = (of = design): RowsQuestion => groupsOf(of)[0] as RowsQuestion;
const newIds = () => {
  let count = 0;
  return () => `copy${String(++count)}`;
};

describe('placing a question', () => {
  it('before another, in another section, and into repeating rows and out', () => {
    const [first = '', second = '', third = ''] = ids();
    expect(ids(placeQuestion(design, third, { section: home, before: first })).slice(0, 3)).toEqual([
      third,
      first,
      second,
    ]);
    const two = addSection(design, { id: 'snew', title: 'New', questions: [] }, home);
    expect(ids(placeQuestion(two, first, { section: 'snew', before: null })).at(-1)).toBe(first);
    const field = lines().columns.find((one) => lines().totals.some((total) => total.column === one.id));
    const out = placeQuestion(design, field?.id ?? '', { section: home, before: null });
    // What was totalled of it goes with it, and its key gives way to one that is taken.
    expect([lines(out).totals, ids(out).at(-1)]).toEqual([[], field?.id]);
    const back = placeQuestion(out, field?.id ?? '', {
      group: lines().id,
      before: lines().columns[0]?.id ?? null,
    });
    expect(lines(back).columns[0]?.id).toBe(field?.id);
  });

  it('nothing happens where it cannot stand', () => {
    const rows = lines().id;
    expect(placeQuestion(design, rows, { group: rows, before: null })).toBe(design);
    expect(placeQuestion(design, rows, { group: 'qtrplanned', before: null })).toBe(design);
    expect(placeQuestion(design, 'qtrplanned', { group: 'nothing', before: null })).toBe(design);
    expect(placeQuestion(design, 'qtrplanned', { section: 'nothing', before: null })).toBe(design);
    expect(placeQuestion(design, 'nothing', { section: home, before: null })).toBe(design);
  });

  it('by one place goes on in the next section', () => {
    const two = addSection(design, { id: 'snew', title: 'New', questions: [] }, home);
    const last = section?.questions.at(-1)?.id ?? '';
    const over = nudgeQuestion(two, last, 1);
    expect(over.sections.find(({ id }) => id === 'snew')?.questions[0]?.id).toBe(last);
    expect(nudgeQuestion(over, last, -1)).toEqual(two);
    expect(nudgeQuestion(design, ids()[0] ?? '', -1)).toBe(design);
    expect(nudgeQuestion(design, 'nothing', 1)).toBe(design);
    const [first = '', second = ''] = ids();
    expect(ids(nudgeQuestion(design, first, 1)).slice(0, 2)).toEqual([second, first]);
    expect(ids(nudgeQuestion(design, second, -1)).slice(0, 2)).toEqual([second, first]);
    const [left, right] = lines().columns;
    expect(lines(nudgeQuestion(design, right?.id ?? '', -1)).columns.slice(0, 2)).toEqual([right, left]);
  });
});

it('a section that goes leaves its questions to its neighbour', () => {
  const two = addSection(design, { id: 'snew', title: 'New', questions: [] }, home);
  expect(dissolveSection(two, 'snew')).toEqual(design);
  const [first] = design.sections;
  const merged = dissolveSection(two, first?.id ?? '');
  expect(ids(merged)).toEqual(ids(two));
  expect(design.sections.length === 1 ? dissolveSection(design, home) : design).toBe(design);
});

describe('a second one', () => {
  it('of repeating rows has its own columns, table and checks, and reads its own columns', () => {
    const { design: wide, copy } = duplicateQuestion(design, lines().id, newIds(), () => target);
    const [, second] = groupsOf(wide);
    expect(second?.id).toBe(copy);
    expect(second?.table).toEqual(target);
    expect(second?.columns.map(({ key }) => key)).toEqual(lines().columns.map(({ key }) => key));
    const own = new Set(allQuestions(wide).map(({ id }) => id));
    expect(own.size).toBe(allQuestions(wide).length);
    expect(wide.checks.length).toBeGreaterThan(design.checks.length);
    const compiled = compileForm(wide, tables);
    expect(compiled.ok).toBe(true);
    const readsOf = (rows?: RowsQuestion) =>
      rows?.columns.flatMap((one) => (one.kind === 'calculated' ? [one.expression] : [])) ?? [];
    const copies = new Map(lines().columns.map(({ id }, i) => [id, second?.columns[i]?.id ?? '']));
    expect(readsOf(second)).toEqual(
      readsOf(lines()).map((text) => text.replace(/\w+/g, (word) => copies.get(word) ?? word)),
    );
    expect(readsOf(second)).not.toEqual(readsOf(lines()));
  });

  it('of a question stands right behind it under a key of its own', () => {
    const { design: wide, copy } = duplicateQuestion(design, 'qtrplanned', newIds(), () => target);
    expect(ids(wide)[ids(wide).indexOf('qtrplanned') + 1]).toBe(copy);
    expect(new Set(allQuestions(wide).map(({ key }) => key)).has('planned_on_2')).toBe(true);
    expect(duplicateQuestion(design, 'nothing', newIds(), () => target).copy).toBeNull();
  });
});

describe('rows within rows', () => {
  const lots = (more: Partial<RowsQuestion> = {}): RowsQuestion => ({
    ...small.lines([small.number('amount'), small.sum('twice', 'amount * 2')], {
      totals: [{ id: 'all', key: 'all', label: 'All', column: 'amount' }],
      starts: { t: 'empty', count: 2 },
    }),
    id: 'lots',
    key: 'lots',
    table: small.target(93),
    ...more,
  });
  const flat = small.form([
    small.section('one', [
      small.number('a'),
      lots(),
      small.lines([small.number('nn'), small.sum('xx', 'nn + 1')]),
    ]),
    small.section('two', [small.number('b')]),
  ]);
  const inner = withinRows(flat, 'lots', 'lines');
  const group = (of: typeof flat, id: string) => groupsOf(of).find((one) => one.id === id);
  const codes = (of: typeof flat) =>
    designIssues(of, small.tables, new Set()).map(({ code, path }) => [code, path[0]]);

  it('are put there by their setting or by hand, behind those they stand in, and begin with none', () => {
    expect([ids(inner), group(inner, 'lots')?.within]).toEqual([['a', 'lines', 'lots', 'b'], 'lines']);
    expect([group(inner, 'lots')?.starts, codes(inner)]).toEqual([undefined, []]);
    expect(placeQuestion(flat, 'lots', { group: 'lines', before: null })).toEqual(inner);
    expect(group(placeQuestion(inner, 'lots', { section: 'two', before: null }), 'lots')).not.toHaveProperty(
      'within',
    );
    expect(withinRows(inner, 'lots', null).sections[0]?.questions[2]).not.toHaveProperty('within');
  });

  it('go along when those they stand in are moved, doubled or taken out', () => {
    expect(ids(placeQuestion(inner, 'lines', { section: 'two', before: 'b' }))).toEqual([
      'a',
      'lines',
      'lots',
      'b',
    ]);
    expect(
      placeQuestion(inner, 'lines', { section: 'two', before: 'b' }).sections[1]?.questions,
    ).toHaveLength(3);
    const { design: doubled, copy } = duplicateQuestion(inner, 'lines', newIds(), () => target);
    const [, , , second] = groupsOf(doubled);
    expect([ids(doubled).length, second?.within, second?.id === 'lots']).toEqual([6, copy, false]);
    expect(codes(doubled).filter(([code]) => code !== 'key-taken')).toEqual([]);
    expect(ids(removeQuestion(inner, 'lines'))).toEqual(['a', 'b']);
    expect(nudgeQuestion(inner, 'lots', 1)).toBe(inner);
    const beside = withinRows(doubled, second?.id ?? '', 'lines');
    const places = (of: typeof flat) =>
      groupsOf(of)
        .filter(({ within }) => within === 'lines')
        .map(({ id }) => id);
    expect([places(beside), places(nudgeQuestion(beside, second?.id ?? '', 1))]).toEqual([
      [second?.id, 'lots'],
      ['lots', second?.id],
    ]);
    expect(ids(nudgeQuestion(inner, 'a', 1))).toEqual(['lines', 'lots', 'a', 'b']);
    const again = freshCopy(inner, newIds(), (table) => table);
    expect(groupsOf(again)[1]?.within).toBe(groupsOf(again)[0]?.id);
  });

  it('stand one level deep, in rows that are a table, and nowhere else', () => {
    const deeper = small.form([
      small.section('s', [lots(), { ...lots(), id: 'marks', key: 'marks' }, small.lines([])]),
    ]);
    const two = withinRows(withinRows(deeper, 'lots', 'lines'), 'marks', 'lots');
    expect(groupsOf(two).map(({ within }) => within)).toEqual([undefined, undefined, 'lines']);
    expect(withinRows(inner, 'lines', 'lots')).toBe(inner);
    const by = (part: Partial<RowsQuestion>) =>
      codes(small.form([small.section('s', [lots({ starts: undefined, ...part })])]));
    expect(by({ within: 'gone' })).toEqual([['rows-within', 'lots']]);
    expect(by({ within: 'lots' })).toEqual([['rows-within', 'lots']]);
    const begun = small.form([
      small.section('s', [small.lines([small.number('nn')]), lots({ within: 'lines' })]),
    ]);
    expect(codes(begun)).toEqual([['rows-within-begin', 'lots']]);
  });

  it('are kept in the rows of the table of those they stand in', () => {
    const made = tablesOf(inner).map((table) => ({ ...table, prefix: 'AB' }));
    const named = new Map(made.map((table) => [table.id, table]));
    const [own] = made;
    if (own === undefined) throw new Error('no table');
    const other = { ...inner, sections: [...inner.sections].reverse() };
    const kept = keptInTable(other, own, named, { id: newIds(), rowsTable: () => target });
    expect(groupsOf(kept).map(({ id, table }) => [id, table.id])).toEqual([
      ['lines', small.target(92).id],
      ['lots', small.target(93).id],
    ]);
  });
});
