import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  BED,
  compiledForm,
  design,
  full,
  NEMAVAR,
  records,
  sheetOf,
  SOAP,
  world,
} from '../../../tests/support/designs';
import { isBig, type Value } from '../expression/value';
import { noAnswers } from './answers';
import { compileForm } from './compile-form';
import type { FormDesign } from './design';
import { shown, type Place } from './cells';
import { Sheet } from './sheet';

const number = (value: Value): string | null => (isBig(value) ? value.toString() : null);

describe('a sheet works out what depends on an answer', () => {
  it('takes the area from the picked bed, the amount from rate and area, and the total from all rows', () => {
    const sheet = sheetOf(full);
    expect(number(sheet.value(['qtrbedarea']))).toBe('18.5');
    expect(number(sheet.value(['qtrlines', 'r1', 'qtramount']))).toBe('1110');
    expect(number(sheet.value(['qtrtotal']))).toBe('1665');
    sheet.set(['qtrlines', 'r2', 'qtrrate'], '45');
    expect(number(sheet.value(['qtrlines', 'r2', 'qtramount']))).toBe('832.5');
    expect(number(sheet.value(['qtrtotal']))).toBe('1942.5');
  });

  it('keeps what it cannot read, and says so at its place', () => {
    const sheet = sheetOf(full);
    sheet.set(['qtrlines', 'r1', 'qtrrate'], 'sixty');
    expect(sheet.raw(['qtrlines', 'r1', 'qtrrate'])).toBe('sixty');
    expect(sheet.fault(['qtrlines', 'r1', 'qtrrate'])?.code).toBe('not-a-number');
    expect(sheet.value(['qtrlines', 'r1', 'qtramount'])).toBeNull();
    expect(sheet.answers().rows['qtrlines']?.[0]?.cells['qtrrate']).toBe('sixty');
  });

  it('counts a row once anything is typed in it, and no sooner', () => {
    const sheet = sheetOf(full);
    sheet.insertRow('qtrlines', { id: 'r3', cells: {} });
    expect(sheet.filledRows('qtrlines')).toHaveLength(2);
    expect(sheet.answers().rows['qtrlines']).toHaveLength(2);
    sheet.set(['qtrlines', 'r3', 'qtrrate'], '1');
    expect(sheet.filledRows('qtrlines')).toHaveLength(3);
    expect(number(sheet.value(['qtrtotal']))).toBe('1683.5');
  });

  it('gives a removed row back with its place', () => {
    const sheet = sheetOf(full);
    const removed = sheet.removeRow('qtrlines', 'r1');
    expect(number(sheet.value(['qtrtotal']))).toBe('555');
    if (removed === null) throw new Error('nothing was removed');
    removed();
    expect(sheet.answers()).toEqual(sheetOf(full).answers());
    expect(number(sheet.value(['qtrtotal']))).toBe('1665');
    expect(sheet.removeRow('qtrlines', 'nobody')).toBeNull();
  });

  it('tells those who watch, once per change, and not when nothing changed', () => {
    const sheet = sheetOf(full);
    let told = 0;
    const stop = sheet.watch(() => told++);
    sheet.set(['qtrclosed'], false);
    sheet.set(['qtrclosed'], false);
    stop();
    sheet.set(['qtrclosed'], true);
    expect(told).toBe(1);
  });

  it('reads a lookup that names nobody as gone, and a pick as known', () => {
    const sheet = sheetOf({ ...full, values: { ...full.values, qtrbed: NEMAVAR } });
    expect(sheet.fault(['qtrbed'])?.code).toBe('record-gone');
    sheet.pick(
      ['qtrbed'],
      design.sections[0]?.questions[0]?.kind === 'lookup' ? design.sections[0].questions[0].table : '',
      { id: 'new', title: 'New bed', values: {} },
    );
    expect(sheet.fault(['qtrbed'])).toBeNull();
    expect(
      shown(
        { id: '', key: '', label: '', hint: '', required: false, kind: 'lookup', table: '', show: [] },
        sheet.value(['qtrbed']),
      ),
    ).toBe('New bed');
  });

  it('leaves out answers that belong to no question', () => {
    const sheet = sheetOf({
      ...noAnswers,
      values: { intruder: 'x', qtramount: '1' },
      rows: { qtrlines: [{ id: 'r', cells: { qtrbed: BED, qtrarea: '9' } }], other: [] },
    });
    expect(sheet.answers().values).toEqual({});
    expect(sheet.answers().rows).toEqual({ qtrlines: [] });
  });
});

describe('law: after any edits a sheet is what it would be if opened with its answers', () => {
  const rate = fc.constantFrom('60', '12.5', '', 'x', '0', '39.9');
  const edit = fc.oneof(
    fc.record({ t: fc.constant('cell' as const), row: fc.nat(3), id: fc.constantFrom('qtrrate'), raw: rate }),
    fc.record({
      t: fc.constant('product' as const),
      row: fc.nat(3),
      raw: fc.constantFrom(SOAP, NEMAVAR, ''),
    }),
    fc.record({ t: fc.constant('bed' as const), raw: fc.constantFrom(BED, '') }),
    fc.record({ t: fc.constant('add' as const), row: fc.nat(3) }),
    fc.record({ t: fc.constant('remove' as const), row: fc.nat(3) }),
  );
  const total = design.sections[0]?.questions.length ?? 0;

  it('holds', () => {
    expect(total).toBeGreaterThan(0);
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 25 }), (edits) => {
        const sheet = sheetOf(full);
        let made = 0;
        for (const one of edits) {
          const rows = sheet.rows('qtrlines');
          const row = 'row' in one ? rows[one.row % Math.max(1, rows.length)] : undefined;
          if (one.t === 'add') sheet.insertRow('qtrlines', { id: `n${made++}`, cells: {} }, one.row);
          else if (one.t === 'bed') sheet.set(['qtrbed'], one.raw);
          else if (row === undefined) continue;
          else if (one.t === 'remove') sheet.removeRow('qtrlines', row.id);
          else sheet.set(['qtrlines', row.id, one.t === 'cell' ? 'qtrrate' : 'qtrproduct'], one.raw);
        }
        const fresh = new Sheet(compiledForm(), sheet.answers(), records, world);
        const places: Place[] = [
          ['qtrbedarea'],
          ['qtrtotal'],
          ...fresh
            .rows('qtrlines')
            .flatMap((row) =>
              ['qtrarea', 'qtramount', 'qtrc1', 'qtrc2'].map((id): Place => ['qtrlines', row.id, id]),
            ),
        ];
        for (const place of places)
          expect([place, shownValue(sheet.value(place))]).toEqual([place, shownValue(fresh.value(place))]);
      }),
      { numRuns: 150 },
    );
  });
});

const shownValue = (value: Value): unknown => number(value) ?? value;

describe('compiling a form', () => {
  const withExpression = (expression: string): FormDesign => ({
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: section.questions.map((question) =>
        question.kind === 'rows'
          ? {
              ...question,
              columns: question.columns.map((column) =>
                column.id === 'qtramount' && column.kind === 'calculated'
                  ? { ...column, expression }
                  : column,
              ),
            }
          : question,
      ),
    })),
  });

  it('names the circle when calculations need each other', () => {
    const form = compileForm(withExpression('qtrtotal + 1'), new Map());
    expect(
      form.ok ? [] : form.error.filter(({ code }) => code === 'circular').map(({ facts }) => facts['circle']),
    ).toEqual(['Amount → Total → Amount']);
  });

  it('refuses what does not give a number, at the question', () => {
    const form = compileForm(withExpression('qtrrate > 1'), compiledForm().tables);
    expect(form.ok ? null : form.error[0]).toMatchObject({
      code: 'result-type',
      path: ['qtramount'],
      facts: { given: 'yes-no', wanted: 'number' },
    });
  });

  it('orders formulas so that each comes after what it reads', () => {
    const { formulas } = compiledForm();
    const at = new Map(formulas.map((formula, i) => [formula.id, i]));
    for (const [i, formula] of formulas.entries())
      for (const id of formula.reads) expect(at.get(id) ?? -1).toBeLessThan(i);
  });
});
