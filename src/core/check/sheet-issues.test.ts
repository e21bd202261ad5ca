import { describe, expect, it } from 'vitest';
import { compiledForm, world } from '../../../tests/support/designs';
import { empty, lines, visitDesign, visitRecords } from '../../../tests/support/visit';
import type { Answers } from '../form/answers';
import type { FormDesign, Question, RowsQuestion } from '../form/design';
import { Sheet } from '../form/sheet';
import type { Check } from './check';
import { reasonsAsked, sheetIssues } from './sheet-issues';

const check = (id: string, on: string, must: string, otherwise: Check['otherwise']): Check => ({
  id,
  on,
  must,
  message: `Because of ${id}`,
  otherwise,
});
/** The visit with other checks, and its lots changed. */
const visit = (checks: readonly Check[], lots: Partial<RowsQuestion> = {}): FormDesign => ({
  ...visitDesign,
  checks,
  sections: visitDesign.sections.map((section) => ({
    ...section,
    questions: section.questions.map((one): Question =>
      one.id === 'qlines' && one.kind === 'rows' ? { ...one, ...lots } : one,
    ),
  })),
});
const sheetOf = (design: FormDesign, answers: Partial<Answers>) =>
  new Sheet(compiledForm(design), { ...empty, ...answers }, visitRecords, world);
const asked = { values: { qguided: true, qguide: 'Ada' } };

describe('rows', () => {
  const told = (lots: Partial<RowsQuestion>, rows: Answers['rows']) =>
    sheetIssues(sheetOf(visit([], lots), { ...asked, rows })).map(({ code, path, facts }) => ({
      code,
      path,
      facts,
    }));
  const two = lines({ qcount: '1', qdone: true }, { qcount: '2', qdone: true });

  it('are as many as they must be, and no more than they may be', () => {
    expect(told({ least: 3 }, two)).toEqual([
      { code: 'too-few-rows', path: ['qlines'], facts: { least: 3, given: 2, label: 'qlines' } },
    ]);
    expect(told({ most: 1 }, two)).toEqual([
      { code: 'too-many-rows', path: ['qlines'], facts: { most: 1, given: 2, label: 'qlines' } },
    ]);
    expect(told({ least: 2, most: 2 }, two)).toEqual([]);
    // What must be filled has a row at least.
    expect(told({ least: 0, required: true }, {})).toEqual([
      { code: 'too-few-rows', path: ['qlines'], facts: { least: 1, given: 0, label: 'qlines' } },
    ]);
    expect(told({ least: 0, required: false }, {})).toEqual([]);
  });

  it('say what is wrong in a cell with the words of its column', () => {
    expect(told({}, lines({ qcount: 'x', qdone: true }))).toEqual([
      { code: 'not-a-number', path: ['qlines', 'r0', 'qcount'], facts: { comma: false, label: 'qcount' } },
    ]);
    expect(told({}, lines({ qcount: '1', qdone: false }))).toEqual([
      { code: 'required', path: ['qlines', 'r0', 'qwhy'], facts: { label: 'qwhy' } },
    ]);
  });
});

it('a choice that is offered no more is to be made again, and only that one', () => {
  const design = visit([], {});
  const lots = design.sections[1]?.questions[0];
  if (lots?.kind !== 'rows') throw new Error('no lots');
  const columns = lots.columns.map((one) =>
    one.kind === 'choice'
      ? {
          ...one,
          choices: [
            { code: 'seed', label: 'Seed', retired: true },
            { code: 'plant', label: 'Plant' },
          ],
        }
      : one,
  );
  const of = (qtype: string) =>
    sheetIssues(
      sheetOf(visit([], { columns }), { ...asked, rows: lines({ qcount: '1', qdone: true, qtype }) }),
    ).map(({ code, path, facts }) => ({ code, path, facts }));
  expect(of('seed')).toEqual([
    {
      code: 'choice-retired',
      path: ['qlines', 'r0', 'qtype'],
      facts: { label: 'qtype', choice: 'Seed' },
    },
  ]);
  expect(of('plant')).toEqual([]);
});

describe('checks', () => {
  const checks = [
    check('k1', 'qday', 'qday >= date("2026-01-01")', 'stop'),
    check('k2', 'qnote', 'string length(qnote) > 2', 'ask'),
    check('k3', 'qcount', 'qcount < 10', 'ask'),
    check('k4', 'qlines', 'count(qlines) < 2', 'stop'),
    check('k5', 'qall', 'qall < 15', 'stop'),
  ];
  const design = visit(checks);
  const broken = {
    values: { ...asked.values, qday: '2025-12-31', qnote: 'x' },
    rows: lines({ qcount: '12', qdone: true }, { qcount: '4', qdone: true }),
  };

  it('stand at their line or row with their message, those of a total at its rows', () => {
    expect(
      sheetIssues(sheetOf(design, broken)).map(({ code, path, facts }) => ({ code, path, facts })),
    ).toEqual([
      { code: 'reason-needed', path: ['qnote'], facts: { check: 'k2', message: 'Because of k2' } },
      { code: 'check-stops', path: ['qday'], facts: { check: 'k1', message: 'Because of k1' } },
      {
        code: 'reason-needed',
        path: ['qlines', 'r0', 'qcount'],
        facts: { check: 'k3', message: 'Because of k3' },
      },
      { code: 'check-stops', path: ['qlines'], facts: { check: 'k4', message: 'Because of k4' } },
      { code: 'check-stops', path: ['qlines'], facts: { check: 'k5', message: 'Because of k5' } },
    ]);
  });

  it('ask for reasons only while what they are on is asked and broken; a given one is still shown', () => {
    const ids = (answers: Partial<Answers>) => reasonsAsked(sheetOf(design, answers)).map(({ id }) => id);
    expect(ids(broken)).toEqual(['k2', 'k3']);
    expect(ids({ ...broken, reasons: { k2: 'So it is', k3: 'So too' } })).toEqual(['k2', 'k3']);
    // One row of several is enough; without the section nobody is asked.
    expect(ids({ ...broken, values: { ...broken.values, qguided: false } })).toEqual(['k2']);
    expect(
      ids({ values: { ...asked.values, qnote: 'long' }, rows: lines({ qcount: '1', qdone: true }) }),
    ).toEqual([]);
    // What is empty breaks nothing.
    expect(ids(asked)).toEqual([]);
  });

  it('are given up where they cannot be told, at their row', () => {
    const heavy = visit([check('k6', 'qcount', 'every i in 1..100000000 satisfies i > qcount', 'stop')]);
    expect(
      sheetIssues(sheetOf(heavy, { ...asked, rows: lines({ qcount: '-1', qdone: true }) })).map(
        ({ code, path }) => [code, ...path],
      ),
    ).toEqual([['too-many-steps', 'qlines', 'r0', 'qcount']]);
  });
});
