import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FormDesign } from '../form/design';
import { listSentence } from '../wording/list-sentence';
import {
  designWithLists,
  listIssues,
  offered,
  planList,
  rebasedList,
  tableWithLists,
  usesList,
  type ChoiceList,
} from './choice-list';
import { convertedBy } from './convert-column';
import { plainColumn, plainTable, type Column, type ColumnChoice, type Table } from './model';
import { planTables } from './plan';
import { planRedesign } from './redesign';

const choice = (code: string, label = code.toUpperCase(), retired = false): ColumnChoice => ({
  code,
  label,
  ...(retired && { retired }),
});
const list = (choices: readonly ColumnChoice[], more: Partial<ChoiceList> = {}): ChoiceList => ({
  id: '01900000-0000-7000-b100-0000000000aa',
  label: 'Units',
  description: '',
  choices,
  version: 1,
  ...more,
});
const someList = fc
  .record({
    choices: fc.uniqueArray(
      fc.record({
        code: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
        label: fc.constantFrom('One', 'Two', 'Three'),
        retired: fc.boolean(),
      }),
      { selector: ({ code }) => code, maxLength: 5 },
    ),
    label: fc.constantFrom('Units', 'Sizes'),
    description: fc.constantFrom('', 'words'),
  })
  .map(({ choices, ...rest }) =>
    list(
      choices.map(({ code, label, retired }) => choice(code, label, retired)),
      rest,
    ),
  );
const codes = ({ choices }: Pick<ChoiceList, 'choices'>): string[] => choices.map(({ code }) => code);
const sorted = (one: ChoiceList): ChoiceList => ({
  ...one,
  choices: [...one.choices].sort((a, b) => a.code.localeCompare(b.code)),
});

describe('a change of a choice list', () => {
  it('is nothing from a list to itself, and something to any other', () => {
    fc.assert(
      fc.property(
        someList,
        someList,
        (one, other) =>
          planList(one, one).length === 0 &&
          (planList(one, other).length === 0) === (JSON.stringify(one) === JSON.stringify(other)),
      ),
    );
  });

  it('is said in words, with what is held', () => {
    const before = list([
      choice('a', 'Litre'),
      choice('b', 'Pint'),
      choice('c', 'Bag'),
      choice('e', 'Old', true),
    ]);
    const after = list(
      [choice('c', 'Sack'), choice('b', 'Pint', true), choice('d', 'Box'), choice('e', 'Old')],
      { label: 'Measures', description: 'How much' },
    );
    expect(
      planList(before, after).map((one) =>
        listSentence(one, (code) => (code === 'c' ? '12 records hold' : '')),
      ),
    ).toEqual([
      'The list “Units” is renamed “Measures”',
      'Its description changes',
      '“Bag”, which 12 records hold, reads “Sack” everywhere',
      '“Pint” is no longer offered, and stays in the records that have it',
      '“Box” is offered from now on',
      '“Old” is offered again',
      '“Litre” is taken out',
      'The choices are in a different order',
    ]);
    expect(planList(null, after).map((one) => listSentence(one))).toEqual([
      'The list “Measures” is made, with 4 choices',
    ]);
  });

  it('brought onto a change of somebody else keeps both, and mine where both changed the same', () => {
    fc.assert(
      fc.property(
        someList,
        someList,
        (base, theirs) => JSON.stringify(rebasedList(base, base, theirs)) === JSON.stringify(theirs),
      ),
    );
    fc.assert(
      fc.property(
        someList,
        someList,
        (base, mine) =>
          JSON.stringify(sorted(rebasedList(base, mine, base))) === JSON.stringify(sorted(mine)),
      ),
    );
    const base = list([choice('a'), choice('b'), choice('c')]);
    const mine = list([choice('a', 'Mine'), choice('c'), choice('x')]);
    const theirs = list([choice('a', 'Theirs'), choice('b', 'B', true), choice('c', 'See'), choice('y')], {
      description: 'words',
      version: 7,
    });
    expect(rebasedList(base, mine, theirs)).toEqual(
      list([choice('a', 'Mine'), choice('c', 'See'), choice('y'), choice('x')], {
        description: 'words',
        version: 7,
      }),
    );
  });

  it('is refused without choices, with words that stand twice, or with a name that is taken', () => {
    const others = [list([choice('a')], { id: 'other', label: 'measures' })];
    expect(listIssues(list([]), others).map(({ code }) => code)).toEqual(['choices-missing']);
    expect(
      listIssues(list([choice('a', 'One'), choice('b', 'One')], { label: 'Measures ' }), others).map(
        ({ code, path }) => [code, path],
      ),
    ).toEqual([
      ['list-label-taken', ['label']],
      ['choice-repeated', ['choices']],
    ]);
  });
});

const units = list([choice('l', 'Litre'), choice('kg', 'Kilogram'), choice('pt', 'Pint', true)]);
const name = { id: units.id, label: units.label };
const column = (more: Partial<Column>): Column => ({
  ...plainColumn,
  id: 'cunit',
  key: 'unit',
  label: 'Unit',
  kind: 'choice',
  ...more,
});
const own = column({ choices: [choice('l', 'Litres')] });
const ofList = column({ choices: units.choices, list: name });
const table = (one: Column): Table => ({
  ...plainTable,
  id: '01900000-0000-7000-8000-0000000000aa',
  key: 'lots',
  label: 'Lots',
  prefix: 'L',
  columns: [one],
});

describe('a column that takes its choices from a list', () => {
  it('has those the list has now, and keeps its own when the list is gone', () => {
    const stale = table({ ...ofList, choices: [choice('l', 'Liter')], list: { ...name, label: 'Was' } });
    expect(tableWithLists(stale, new Map([[units.id, units]])).columns).toEqual([ofList]);
    expect(tableWithLists(stale, new Map()).columns).toEqual([column({ choices: [choice('l', 'Liter')] })]);
    expect(offered(units.choices).map(({ code }) => code)).toEqual(['l', 'kg']);
  });

  it('is not changed by what the list says', () => {
    expect(
      planRedesign(table(ofList), table({ ...ofList, choices: [choice('l')] })).map(({ t }) => t),
    ).toEqual(['convert-column']);
    expect(
      planRedesign(table(ofList), table({ ...ofList, choices: [...units.choices, choice('g')] })),
    ).toEqual([]);
  });

  it('came to it at once where the list has all it may hold, and by its words where not', () => {
    expect(planRedesign(table(own), table(ofList)).map(({ t }) => t)).toEqual(['change-choices']);
    const other = column({
      choices: [choice('litre', 'litre'), choice('l', 'Litres'), choice('sack', 'Sack')],
    });
    expect(planRedesign(table(other), table(ofList)).map(({ t }) => t)).toEqual(['convert-column']);
    const read = convertedBy(
      { before: other, column: ofList, reading: {}, mends: { Tub: 'kilogram', Litres: 'Pint' } },
      () => null,
      'UTC',
    );
    expect([read('litre'), read('Sack'), read('Tub')]).toMatchObject([
      { value: 'l' },
      { code: 'not-a-choice' },
      { value: 'kg' },
    ]);
    // What its owner says stands instead goes before a code that would stay.
    expect([
      read('Litres'),
      convertedBy({ before: other, column: ofList, reading: {}, mends: {} }, () => null, 'UTC')('Litres'),
    ]).toMatchObject([{ value: 'pt' }, { value: 'l' }]);
  });
});

describe('a form and the list of a column', () => {
  const plan = (there: Column, wanted: Column): string => {
    const made = planTables([table(there)], [table(wanted)]);
    return made.ok
      ? made.value.map(({ t }) => t).join()
      : made.error.map(({ code, facts }) => `${code} ${String(facts['choices'])}`).join();
  };

  it('go together when the form offers what the list has, and give a column a list that has all it may hold', () => {
    expect(plan(ofList, ofList)).toBe('');
    expect(plan(ofList, column({ choices: [choice('kg', 'Kilogram')] }))).toBe('');
    expect(plan(own, ofList)).toBe('change-choices');
  });

  it('say what is missing where one has what the other has not', () => {
    expect(plan(ofList, column({ choices: [choice('kg'), choice('sack', 'Sack')] }))).toBe(
      'choice-not-in-list Sack',
    );
    expect(plan(column({ choices: [choice('l'), choice('sack', 'Sack')] }), ofList)).toBe('list-lacks Sack');
  });

  it('hold what the list says now, in rows as well', () => {
    const question = {
      id: 'qunit',
      key: 'unit',
      label: 'Unit',
      hint: '',
      required: false,
      kind: 'choice' as const,
      choices: [],
      list: { id: units.id, label: 'Was' },
    };
    const rows = {
      id: 'qrows',
      key: 'rows',
      label: 'Rows',
      hint: '',
      required: false,
      kind: 'rows' as const,
      columns: [{ ...question, id: 'qin' }],
      least: 0,
      most: 5,
      totals: [],
      table: { id: 't', key: 't', label: 'T', prefix: 'T' },
    };
    const design: FormDesign = {
      format: 1,
      title: 'F',
      area: '',
      sections: [{ id: 's', title: '', questions: [question, rows] }],
      checks: [],
      steps: [],
      table: { id: 'f', key: 'f', label: 'F', prefix: 'F' },
    };
    const filled = designWithLists(design, new Map([[units.id, units]]));
    expect(filled.sections[0]?.questions).toEqual([
      { ...question, list: name, choices: units.choices },
      { ...rows, columns: [{ ...question, id: 'qin', list: name, choices: units.choices }] },
    ]);
    expect([usesList(filled, units.id), usesList(designWithLists(filled, new Map()), units.id)]).toEqual([
      true,
      false,
    ]);
    expect(
      codes({
        choices: (
          designWithLists(filled, new Map()).sections.flatMap(
            ({ questions }) => questions,
          )[0] as typeof question
        ).choices,
      }),
    ).toEqual(['l', 'kg', 'pt']);
  });
});
