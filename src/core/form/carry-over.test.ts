import { checksIn } from './checks-of-tables';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { unknownAnswers, type Answers, type Raw } from './answers';
import { carriedOver, type ShowAnswer } from './carry-over';
import { isField, type FieldQuestion, type FormDesign, type Question } from './design';

const base = (id: string) => ({ id, key: id, label: `Question ${id}`, hint: '', required: false });
const text = (id: string): FieldQuestion => ({ ...base(id), kind: 'text', long: false });
const whole = (id: string): FieldQuestion => ({ ...base(id), kind: 'whole', unit: '' });
const yesNo = (id: string): FieldQuestion => ({ ...base(id), kind: 'yes-no' });
const lookup = (id: string, table = 't1'): FieldQuestion => ({
  ...base(id),
  kind: 'lookup',
  table,
  show: [],
});
const choice = (id: string, ...labels: string[]): FieldQuestion => ({
  ...base(id),
  kind: 'choice',
  choices: labels.map((label) => ({ code: label.toLowerCase(), label })),
});
const rows = (id: string, ...columns: FieldQuestion[]): Question => ({
  ...base(id),
  kind: 'rows',
  columns,
  least: 0,
  most: 20,
  totals: [],
  table: { id: 't', key: 't', label: 'T', prefix: 'T' },
});
const form = (questions: Question[], checks: FormDesign['checks'] = []): FormDesign => ({
  format: 1,
  title: 'F',
  area: '',
  sections: [{ id: 's', title: '', questions }],
  checks,
  steps: [],
  table: { id: 't', key: 't', label: 'T', prefix: 'T' },
});
const show: ShowAnswer = (question, raw) =>
  question.kind === 'choice'
    ? (question.choices.find(({ code }) => code === raw)?.label ?? String(raw))
    : question.kind === 'lookup'
      ? `record ${String(raw)}`
      : typeof raw === 'boolean'
        ? raw
          ? 'yes'
          : 'no'
        : String(raw);
const answers = (values: Record<string, Raw>, rest: Partial<Answers> = {}): Answers => ({
  values,
  rows: {},
  reasons: {},
  ...rest,
});

describe('a draft that goes on under another release', () => {
  it.each<[string, FieldQuestion, FieldQuestion, Raw, Raw | 'left']>([
    ['the same question', text('a'), { ...text('a'), label: 'Other words' }, 'fern', 'fern'],
    ['text that may be no number', text('a'), whole('a'), 'three', 'three'],
    ['a choice there still is', choice('a', 'Wild', 'Sown'), choice('a', 'Sown'), 'sown', 'sown'],
    ['a choice that is gone', choice('a', 'Wild', 'Sown'), choice('a', 'Sown'), 'wild', 'left'],
    ['a word that has become a choice', text('a'), choice('a', 'Sown'), 'Sown', 'sown'],
    ['another word', text('a'), choice('a', 'Sown'), 'Wild', 'left'],
    ['a choice that has become text', choice('a', 'Sown'), text('a'), 'sown', 'Sown'],
    ['a record of the same table', lookup('a'), lookup('a'), 'r1', 'r1'],
    ['a record of another table', lookup('a'), lookup('a', 't2'), 'r1', 'left'],
    ['a record as text', lookup('a'), text('a'), 'r1', 'record r1'],
    ['a record as a number', lookup('a'), whole('a'), 'r1', 'left'],
    ['yes as text', yesNo('a'), text('a'), true, 'yes'],
    ['text as yes', text('a'), yesNo('a'), 'yes', 'left'],
    [
      'an answer that is calculated now',
      text('a'),
      { ...base('a'), kind: 'calculated', expression: '1', decimals: 0, unit: '' },
      '4',
      'left',
    ],
    ['nothing', choice('a', 'Sown'), whole('a'), null, null],
  ])('%s', (_, from, to, raw, wanted) => {
    const { answers: kept, left } = carriedOver(
      form([from]),
      form([to]),
      answers({ a: raw }),
      show,
      new Set(),
    );
    if (wanted === 'left') {
      expect(kept.values).toEqual({});
      expect(left).toEqual([{ label: from.label, text: show(from, raw) }]);
    } else expect([kept.values, left]).toEqual([{ a: wanted }, []]);
  });

  it('tells what of its rows and reasons has no place, and keeps the others', () => {
    const check = { id: 'k', on: 'a', must: 'true', message: 'Why so many?', otherwise: 'ask' } as const;
    const from = form([text('a'), rows('g', text('x'), text('y')), rows('h', text('z'))], [check]);
    const to = form([text('a'), rows('g', text('x'))]);
    const given = answers(
      { a: 'fern' },
      {
        rows: {
          g: [
            { id: 'r1', cells: { x: '1', y: '2' } },
            { id: 'r2', cells: { x: '3' } },
          ],
          h: [{ id: 'r3', cells: { z: '9' } }],
        },
        reasons: { k: 'It rained' },
      },
    );
    expect(carriedOver(from, to, given, show, checksIn(to, new Map()))).toEqual({
      answers: answers(
        { a: 'fern' },
        {
          rows: {
            g: [
              { id: 'r1', cells: { x: '1' } },
              { id: 'r2', cells: { x: '3' } },
            ],
          },
        },
      ),
      left: [
        { label: 'Question g, row 1: Question y', text: '2' },
        { label: 'Question h, row 1: Question z', text: '9' },
        { label: 'Why so many?', text: 'It rained' },
      ],
    });
    expect(carriedOver(from, from, given, show, checksIn(from, new Map()))).toEqual({
      answers: given,
      left: [],
    });
  });

  it('never has answers that the other release does not ask for, and never more or less than was typed', () => {
    const kinds = [text, whole, yesNo, lookup, (id: string) => choice(id, 'Wild', 'Sown')];
    const question = fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.constantFrom(...kinds));
    const questions = fc
      .uniqueArray(question, { selector: ([id]) => id })
      .map((list) => list.map(([id, make]) => make(id)));
    const designs = fc.tuple(questions, questions).map(([own, inner]) => form([...own, rows('g', ...inner)]));
    fc.assert(
      fc.property(
        designs,
        designs,
        fc.infiniteStream(fc.constantFrom('wild', 'Sown', '3')),
        (from, to, texts) => {
          const typed = (one: FieldQuestion): Raw =>
            one.kind === 'yes-no' ? true : (texts.next().value ?? '');
          const cells = (list: readonly FieldQuestion[]) =>
            Object.fromEntries(list.map((one) => [one.id, typed(one)]));
          const [own, inner] = [0, 1].map((part) =>
            from.sections[0]!.questions.flatMap((one) =>
              part === 1 ? (one.kind === 'rows' ? [...one.columns] : []) : isField(one) ? [one] : [],
            ),
          );
          const given = answers(cells(own ?? []), { rows: { g: [{ id: 'r1', cells: cells(inner ?? []) }] } });
          const { answers: kept, left } = carriedOver(from, to, given, show, checksIn(to, new Map()));
          expect(unknownAnswers(to, kept)).toEqual([]);
          const count = ({ values, rows: all }: Answers) =>
            Object.keys(values).length + Object.keys(all['g']?.[0]?.cells ?? {}).length;
          expect(count(kept) + left.length).toBe(count(given));
        },
      ),
    );
  });
});

it('rows that stand in others go on where they may, and are told where they have no place any more', () => {
  const [outer, inner] = [rows('lines', text('n')), rows('lots', text('c'))] as const;
  const within = { ...inner, within: 'lines' } as Question;
  const given: Answers = {
    values: {},
    rows: {
      lines: [{ id: 'l', cells: { n: 'Oak' } }],
      lots: [{ id: 'a', of: 'l', cells: { c: 'A-1' } }],
    },
    reasons: {},
  };
  const show: ShowAnswer = (_, raw) => String(raw);
  const moved = (from: Question, to: Question, answers: Answers) =>
    carriedOver(form([outer, from]), form([outer, to]), answers, show, new Set());
  expect(moved(within, within, given)).toEqual({ answers: given, left: [] });
  // Rows of the form stand in none.
  expect(moved(within, inner, given).answers.rows['lots']).toEqual([{ id: 'a', cells: { c: 'A-1' } }]);
  const loose = { ...given, rows: { ...given.rows, lots: [{ id: 'a', cells: { c: 'A-1' } }] } };
  const left = moved(inner, within, loose);
  expect([left.answers.rows['lots'], left.left]).toEqual([
    [],
    [{ label: 'Question lots, row 1: Question c', text: 'A-1' }],
  ]);
});
