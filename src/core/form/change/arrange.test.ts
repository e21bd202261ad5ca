import { describe, expect, it } from 'vitest';
import { compileForm } from '../compile-form';
import { design, tables } from '../../../../tests/support/designs';
import { allQuestions, groupsOf, type RowsQuestion } from '../design';
import { addSection, dissolveSection, duplicateQuestion, nudgeQuestion, placeQuestion } from './arrange';

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
