import { describe, expect, it } from 'vitest';
import { design, full, NEMAVAR, sheetOf } from '../../../tests/support/designs';
import { noAnswers } from '../form/answers';
import { lineOf } from '../form/line';
import { issueSentence } from '../wording/issue-sentence';
import { reasonsAsked, sheetIssues } from './sheet-issues';

const codes = (answers: Parameters<typeof sheetOf>[0]) =>
  sheetIssues(sheetOf(answers)).map(({ code, path }) => [code, ...path]);

describe('what keeps a sheet from being sent', () => {
  it('finds nothing on a sheet that holds', () => expect(codes(full)).toEqual([]));

  it('finds everything at once, in the order of the lines', () => {
    expect(codes(noAnswers)).toEqual([
      ['required', 'qtrbed'],
      ['too-few-rows', 'qtrlines'],
      ['required', 'qtrplanned'],
    ]);
  });

  it('asks of a typed row what every row must have, and nothing of a blank one', () => {
    const rows = {
      qtrlines: [
        { id: 'r1', cells: { qtrrate: '5' } },
        { id: 'r2', cells: { qtrrate: ' ' } },
      ],
    };
    expect(codes({ ...full, rows })).toEqual([['required', 'qtrlines', 'r1', 'qtrproduct']]);
  });

  it('stops at a broken check, at its row', () => {
    const rows = { qtrlines: [{ id: 'r9', cells: { qtrproduct: NEMAVAR, qtrrate: '45' } }] };
    const issues = sheetIssues(sheetOf({ ...full, rows, reasons: { qtrc2: 'More is coming' } }));
    expect(issues.map(({ code, path }) => [code, ...path])).toEqual([
      ['check-stops', 'qtrlines', 'r9', 'qtrrate'],
    ]);
    expect(issueSentence(issues[0]!)).toBe('Above the label’s top rate of 40 ml/m².');
    expect(lineOf(design, () => [{ id: 'r9' }], issues[0]!.path)).toBe('2a');
  });

  it('asks for a reason until one is given', () => {
    const rows = { qtrlines: [{ id: 'r1', cells: { qtrproduct: NEMAVAR, qtrrate: '39.5' } }] };
    expect(codes({ ...full, rows })).toEqual([['reason-needed', 'qtrlines', 'r1', 'qtramount']]);
    expect(codes({ ...full, rows, reasons: { qtrc2: '  ' } })).toHaveLength(1);
    const given = sheetOf({ ...full, rows, reasons: { qtrc2: 'Second dose is on order' } });
    expect(sheetIssues(given)).toEqual([]);
    expect(reasonsAsked(given).map(({ id }) => id)).toEqual(['qtrc2']);
  });

  it('keeps within the most rows', () => {
    const rows = {
      qtrlines: Array.from({ length: 9 }, (_, i) => ({
        id: `r${i}`,
        cells: { qtrproduct: NEMAVAR, qtrrate: '1' },
      })),
    };
    expect(codes({ ...full, rows })).toEqual([['too-many-rows', 'qtrlines']]);
  });

  it('compares with the day it is', () =>
    expect(codes({ ...full, values: { ...full.values, qtrplanned: '2026-11-22' } })).toEqual([
      ['check-stops', 'qtrplanned'],
    ]));

  it('quotes a label that is a question', () => {
    expect(issueSentence({ code: 'required', path: [], facts: { label: 'When should it be done?' } })).toBe(
      '“When should it be done?” is not filled',
    );
  });
});
