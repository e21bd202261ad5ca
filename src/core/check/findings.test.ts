import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../../../demo/random';
import { parentColumns, randomExpression, scopeOfRecord } from '../../../tests/support/random-expression';
import { bedInspection, plantIntake, treatmentRequest } from '../../../demo/forms';
import { compiledForm, tables, world } from '../../../tests/support/designs';
import { compile } from '../expression/compile';
import { read } from '../expression/read';
import type { Value } from '../expression/value';
import Big from 'big.js';
import { compileForm } from '../form/compile-form';
import { designIssues } from '../form/design-issues';
import type { ExistingCheck } from './check';
import type { FormDesign, Question } from '../form/design';
import { issueSentence } from '../wording/issue-sentence';
import { casesFalse, casesTrue } from './cases';
import { canHold } from './constraints';
import { comparedInForm, existingIssues, existingSentence } from './existing';
import { findings } from './findings';

const base = (id: string) => ({ id, key: id, label: id, hint: '', required: false });
const target = { id: '01900000-0000-7000-8000-000000000009', key: 'visits', label: 'Visits', prefix: 'V' };
const questions: Question[] = [
  { ...base('qa'), kind: 'decimal', decimals: 2, unit: '' },
  { ...base('qb'), kind: 'decimal', decimals: 2, unit: '' },
  { ...base('qn'), kind: 'whole', unit: '' },
  { ...base('qday'), kind: 'date' },
  { ...base('qend'), kind: 'date' },
  {
    ...base('qstate'),
    kind: 'choice',
    choices: [
      { code: 'new', label: 'New' },
      { code: 'old', label: 'Old' },
    ],
  },
  { ...base('qyes'), kind: 'yes-no' },
  { ...base('qtext'), kind: 'text', long: false },
  {
    ...base('qrows'),
    kind: 'rows',
    least: 0,
    most: 5,
    totals: [],
    table: { ...target, id: '01900000-0000-7000-8000-000000000008', key: 'rows' },
    columns: [{ ...base('qc'), kind: 'decimal', decimals: 0, unit: '' }],
  },
];
const form = (
  part: Partial<FormDesign>,
  change: (question: Question) => Question = (one) => one,
): FormDesign => ({
  format: 1,
  title: 'F',
  area: '',
  steps: [],
  table: target,
  checks: [],
  sections: [{ id: 's', title: 'S', questions: questions.map(change) }],
  ...part,
});
const checks = (...all: string[]): FormDesign =>
  form({
    checks: all.map((must, i) => ({ id: `k${i}`, on: 'qa', must, message: `M${i}`, otherwise: 'stop' })),
  });
const found = (design: FormDesign) => findings(compiledForm(design)).map(({ code, path }) => [code, ...path]);
const asking = (id: string, part: object): FormDesign =>
  form({}, (one) => (one.id === id ? ({ ...one, ...part } as Question) : one));

describe('found before anybody fills it', () => {
  it('is nothing in the sample forms', () =>
    expect(
      [treatmentRequest, plantIntake, bedInspection].flatMap((one) => findings(compiledForm(one))),
    ).toEqual([]));

  it.each([
    ['qa > 5', 'qa < 3'],
    ['qa < qb', 'qb < qa'],
    ['qa < qb', 'qb + 1 <= qa'],
    ['qn > 1', 'qn < 2'],
    ['qday > today()', 'qday < today() + duration("P1D")'],
    ['qstate = "new"', 'qstate = "old"'],
    ['qstate = "new"', 'qstate in ("old")'],
    ['qa between 1 and 2', 'qa > 2'],
    ['qa in [1..5]', 'not(qa <= 5)'],
    ['qyes', 'not(qyes)'],
    ['qtext = null', 'qtext = "x"'],
    ['qa = 3', 'qa != 3'],
    ['qa > 5 and qb > 0', 'qa < 1 or qb < 0'],
    ['contains(qtext, "x")', 'not(contains(qtext, "x"))'],
    ['qday >= date("2026-01-01")', 'qday.year = 2025 and qday < date("2025-06-01")'],
    ['qstate != "new"', 'qstate in ("new", "gone")'],
    ['qa > qb', 'qb > qn and qn > qa'],
    ['if qyes then qa > 5 else qa > 6', 'qa < 5'],
    ['qa in [1, 2, 3]', 'qa > 3'],
    ['qa in [1, 2, 3]', 'qa < 1'],
    ['qa in (1..5)', 'qa = 5'],
    ['qa in ]1..5[', 'qa = 1'],
    ['qa in (> 5, < -5)', 'qa between -5 and 5'],
    ['not(is blank(qstate))', 'qstate = null'],
    ['qstate = null', 'qstate != null'],
    ['qa - 2 > 5', 'qa < 7'],
    ['qa + 2.5 >= qb', 'qb > qa + 3'],
    ['qday - duration("P2D") > qend', 'qend >= qday'],
    ['qn = 1.5 or qn = 2.5', 'qn != 1.5 and qn != 2.5'],
    ['true = qyes', 'qyes = false'],
    ['"new" = qstate', 'qstate != "new"'],
    ['not(qa > 5)', 'qa >= 6'],
    ['not(qa in [1..5])', 'qa = 3'],
    ['not(qstate in ("new"))', 'qstate = "new"'],
    ['qtext = "a" and qa > 1', 'qa <= 1 or qtext != "a"'],
  ])('%s, and %s: never both', (one, other) =>
    expect(found(checks(one, other))).toEqual([['checks-contradict', 'checks', 'k1']]),
  );

  it.each([
    ['qa > 5', 'qa < 7'],
    ['qa <= 3', 'qa >= 3'],
    ['qa > 1', 'qa < 2'],
    ['qstate = "new"', 'qyes'],
    ['qstate != "new"', 'qtext != "x"'],
    ['qday > today()', 'qday < today() + duration("P2D")'],
    ['qtext = "a" or qa > 1', 'qtext = "b"'],
    ['qa in [1, 2, 3]', 'qa > 2'],
    ['qa in (1..5)', 'qa > 4'],
    ['qa in [1..5]', 'qa >= 5'],
    ['qa in (> 5, < -5)', 'qa < 0'],
    ['not(qa in [1..5])', 'qa > 5'],
    ['is blank(qtext)', 'qa > 1'],
    ['qa - 2 >= 5', 'qa <= 7'],
    ['qa * 2 > 5', 'qa < 2'],
    ['qa + qb > 5', 'qa < 1'],
    ['qday + duration("P1M") > qend', 'qend > qday'],
    ['qn >= 1', 'qn <= 1'],
    ['qyes = true', 'qstate = "new"'],
    ['contains(qtext, "x")', 'contains(qtext, "y")'],
    ['contains(qtext, "x")', 'not(contains(qtext, "y"))'],
    ['qa < qb', 'qb < qn'],
    ['qa <= qb', 'qb <= qa'],
  ])('%s, and %s: may well', (one, other) => expect(found(checks(one, other))).toEqual([]));

  it.each([
    ['qa > 5 and qa < 3'],
    ['qstate = "gone"'],
    ['qday < qday'],
    ['qstate != "new" and qstate != "old" and qstate != null'],
    ['false'],
    ['qa < null'],
    ['null != null'],
    ['qday > qday + duration("P1D")'],
    ['qn > 1 and qn < 2'],
    ['qstate in ("gone", "lost")'],
    ['qyes and qyes = false'],
  ])('%s: nothing fulfils it', (must) =>
    expect(found(checks(must))).toContainEqual(['check-never-holds', 'checks', 'k0']),
  );

  it('is a check nothing can break', () => {
    expect(found(checks('qstate in ("new", "old") or qstate = null'))).toEqual([
      ['check-never-reached', 'checks', 'k0'],
    ]);
    expect(
      found({
        ...asking('qa', { askWhen: 'qstate = "gone"' }),
        checks: [{ id: 'k', on: 'qa', must: 'qa > 1', message: 'm', otherwise: 'stop' }],
      }),
    ).toEqual([
      ['condition-never', 'qa', 'askWhen'],
      ['check-never-reached', 'checks', 'k'],
    ]);
  });

  it('is a condition that the choices never make true, for a question, a section, or what must be filled', () => {
    expect(found(asking('qa', { askWhen: 'qstate = "gone"' }))).toEqual([
      ['condition-never', 'qa', 'askWhen'],
    ]);
    expect(found(asking('qa', { requireWhen: 'qstate = "new" and qstate = "old"' }))).toEqual([
      ['condition-never', 'qa', 'requireWhen'],
    ]);
    expect(
      found(
        form({
          sections: [
            { id: 's', title: 'S', questions },
            {
              id: 's2',
              title: 'T',
              showWhen: 'qn > 3 and qn < 4',
              questions: [{ ...base('qz'), kind: 'text', long: false }],
            },
          ],
        }),
      ),
    ).toEqual([['condition-never', 's2', 'showWhen']]);
  });

  it('is an answer that must be given and is never asked', () => {
    expect(found(asking('qa', { askWhen: 'qyes and not(qyes)', required: true }))).toEqual([
      ['required-never-asked', 'qa', 'askWhen'],
    ]);
    const both = form({
      sections: [
        {
          id: 's',
          title: 'S',
          showWhen: 'qstate = "new"',
          questions: [
            { ...base('qx'), kind: 'text', long: false, required: true, askWhen: 'qstate = "old"' },
          ],
        },
        { id: 's0', title: '', questions },
      ],
    });
    expect(found(both)).toEqual([['required-never-asked', 'qx', 'askWhen']]);
  });

  it('is a day the calendar does not have, and a circle of conditions, each named', () => {
    expect(found(checks('qday > date("2026-02-30")')).map(([code]) => code)).toContain('not-a-date');
    const circle = compileForm(
      form(
        {},
        (one) =>
          (one.id === 'qa'
            ? { ...one, askWhen: 'qyes' }
            : one.id === 'qyes'
              ? { ...one, askWhen: 'qa > 1' }
              : one) as Question,
      ),
      tables,
    );
    expect(circle.ok ? [] : circle.error.map(issueSentence)).toEqual([
      'These need each other to be calculated: whether “qa” is asked → whether “qyes” is asked → whether “qa” is asked',
    ]);
  });

  it('keeps a design from being released, with words', () => {
    const issues = designIssues(checks('qa > 5', 'qa < 3'), tables, new Set());
    expect(issues.map(issueSentence)).toContain(
      'This and “M0” contradict each other, so the form could never be sent',
    );
  });
});

describe('law: what is found impossible is never seen', () => {
  it('of expressions at random, on values at random', () => {
    const random = seeded(41);
    let impossible = 0;
    const valueOf = (type: string): Value =>
      random.chance(0.2)
        ? null
        : type === 'number'
          ? new Big(random.whole(-3, 3))
          : type === 'yes-no'
            ? random.chance(0.5)
            : type === 'date'
              ? random.pick(['2026-01-01', '2024-02-29'])
              : random.pick(['fern', '', 'Zz']);
    for (let i = 0; i < 1_500; i++) {
      const parts = Array.from({ length: 2 }, () =>
        randomExpression(random, 'yes-no', random.whole(1, 2), { sql: true }),
      );
      const tree = read(parts.join(' and '), scopeOfRecord);
      if (!tree.ok) continue;
      for (const [cases, claim] of [
        [casesTrue(tree.value, new Set()), true],
        [casesFalse(tree.value, new Set()), false],
      ] as const) {
        if (cases === null || cases.some((one) => canHold(one, new Map()))) continue;
        impossible++;
        for (let k = 0; k < 20; k++) {
          const values = new Map(
            parentColumns.map(([name, type]) => [
              name,
              type === 'time' ? '10:00:00' : type === 'date-time' ? '2026-01-01T10:00:00' : valueOf(type),
            ]),
          );
          const run = compile(tree.value)({
            ...world,
            read: (id) => (id === 'lines' ? [] : (values.get(id) ?? null)),
            column: () => [],
            gaveUp: () => undefined,
          });
          expect([parts.join(' and '), claim, run === claim]).toEqual([parts.join(' and '), claim, false]);
        }
      }
    }
    expect(impossible).toBeGreaterThan(20);
  }, 20_000);

  it('of orders between small whole numbers, against trying them all', () => {
    const order = fc.record({
      low: fc.nat(2),
      high: fc.nat(2),
      plus: fc.integer({ min: -2, max: 2 }),
      strict: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(order, { maxLength: 5 }), (orders) => {
        const term = (path: number, plus = 0) => ({ path: `p${path}`, plus: new Big(plus), whole: true });
        const claimed = canHold(
          orders.map(({ low, high, plus, strict }) => ({
            t: 'order',
            low: term(low, plus),
            high: term(high),
            strict,
          })),
          new Map(),
        );
        const range = Array.from({ length: 25 }, (_, i) => i - 12);
        const there = range.some((a) =>
          range.some((b) =>
            [0].some((c) =>
              orders.every(({ low, high, plus, strict }) => {
                const v = [a, b, c];
                const [x, y] = [(v[low] ?? 0) + plus, v[high] ?? 0];
                return strict ? x < y : x <= y;
              }),
            ),
          ),
        );
        expect(claimed).toBe(there);
      }),
      { numRuns: 200 },
    );
  });
});

describe('checks against the records there are', () => {
  const check = (part: Partial<ExistingCheck>): ExistingCheck => ({
    id: 'x1',
    on: 'qday',
    message: 'No.',
    same: ['qstate'],
    rule: { t: 'unique' },
    ...part,
  });

  it.each<[ExistingCheck, string]>([
    [check({}), 'no other record has the same qstate'],
    [
      check({ rule: { t: 'no-overlap', from: 'qday', to: 'qend' } }),
      'the days from qday to qend overlap with no other record with the same qstate',
    ],
    [
      check({ same: [], rule: { t: 'at-most', most: 2, per: 'month', date: 'qday' } }),
      'at most 2 in one month, by qday',
    ],
    [
      check({ same: ['qstate', 'qyes'], rule: { t: 'at-most', most: 3, per: 'ever', date: null } }),
      'at most 3 in all with the same qstate and qyes',
    ],
  ])('read as a sentence', (one, sentence) => {
    expect(existingSentence(one, comparedInForm(form({}), one))).toBe(sentence);
    expect(existingIssues(one, comparedInForm(form({}), one))).toEqual([]);
  });

  it('compare answers that stand together, and days', () => {
    const wrong = [
      check({ same: ['qc'] }),
      check({ same: [] }),
      check({ rule: { t: 'no-overlap', from: 'qa', to: 'qend' } }),
      check({ message: ' ' }),
    ];
    expect(
      wrong.map((one) => existingIssues(one, comparedInForm(form({}), one)).map(({ code }) => code)),
    ).toEqual([['existing-columns'], ['existing-columns'], ['existing-columns'], ['check-message-missing']]);
  });
});
