import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import { compiledForm, design, tables } from '../../../tests/support/designs';
import { beds } from '../../../demo/tables';
import type { RecordValue } from '../expression/value';
import { carryIssues, copiesOf } from './carry';
import type { Place } from './cells';
import type { Carry, FieldQuestion, FormDesign, Question } from './design';
import { addColumn, addQuestion, asKind } from './edit';

/** What a looked-up record brings along into other answers. */
const section = design.sections[0]?.id ?? '';
const lookup = design.sections.flatMap(({ questions }) => questions).find(({ kind }) => kind === 'lookup');
const group = design.sections.flatMap(({ questions }) => questions).find(({ kind }) => kind === 'rows');
const BED_LOOKUP = lookup?.id ?? '';
const brought = (kind: 'text' | 'decimal' | 'lookup' | 'yes-no', carry: Partial<Carry> = {}): Question =>
  ({
    ...asKind({ id: 'qcarry', key: 'brought', label: 'Brought', hint: '', required: false }, kind, {
      id: '',
      key: '',
      label: '',
      prefix: '',
    }),
    carry: { lookup: BED_LOOKUP, column: 'cbedname', keep: 'copied', ...carry },
  }) as Question;
const withOne = (question: Question): FormDesign => addQuestion(design, section, question);

describe('what is brought along', () => {
  const codes = (of: FormDesign) =>
    carryIssues(of, tables).map(({ code, path, facts }) => [code, ...path, facts]);

  it('comes from a column of the record that a lookup beside it picks, and is of its kind', () => {
    expect(codes(withOne(brought('text')))).toEqual([]);
    expect(codes(withOne(brought('decimal', { column: 'cbedarea' })))).toEqual([]);
    const facts = { label: 'Brought' };
    expect(codes(withOne(brought('decimal')))).toEqual([['carry-kind', 'qcarry', 'carry', facts]]);
    expect(codes(withOne(brought('lookup')))).toEqual([['carry-kind', 'qcarry', 'carry', facts]]);
    expect(codes(withOne(brought('text', { column: 'gone' })))).toEqual([
      ['carry-lookup', 'qcarry', 'carry', facts],
    ]);
    expect(codes(withOne(brought('text', { lookup: 'qtrseen' })))).toEqual([
      ['carry-lookup', 'qcarry', 'carry', facts],
    ]);
    expect(codes(withOne(brought('text', { lookup: 'nothing' })))).toEqual([
      ['carry-lookup', 'qcarry', 'carry', facts],
    ]);
  });

  it('stands in the same place as its lookup: the form’s is none of a row’s', () => {
    const inRow = addColumn(design, group?.id ?? '', brought('text') as FieldQuestion);
    expect(codes(inRow)).toEqual([['carry-lookup', 'qcarry', 'carry', { label: 'Brought' }]]);
    const own = addColumn(
      design,
      group?.id ?? '',
      brought('text', { lookup: 'qtrproduct', column: 'cproname' }) as FieldQuestion,
    );
    expect(codes(own)).toEqual([]);
  });
});

describe('a pick', () => {
  const bed = (name: string | null): RecordValue => ({ id: 'b', title: 'B', values: { cbedname: name } });
  const form = compiledForm(withOne(brought('text')));
  const at = (raw: string | null) => () => raw;
  const place: Place = [BED_LOOKUP];

  it('writes what the record has, and takes it away again with the record, unless it was changed since', () => {
    expect(copiesOf(form, place, bed('North bench'), null, at(null))).toEqual([[['qcarry'], 'North bench']]);
    expect(copiesOf(form, place, bed(null), null, at('x'))).toEqual([[['qcarry'], null]]);
    expect(copiesOf(form, place, null, bed('North bench'), at('North bench'))).toEqual([[['qcarry'], null]]);
    expect(copiesOf(form, place, null, bed('North bench'), at('Mine'))).toEqual([]);
    expect(copiesOf(form, place, null, bed(null), at(null))).toEqual([]);
    expect(copiesOf(form, place, null, null, at('Mine'))).toEqual([]);
  });

  it('writes numbers, yes and no, and records as they would be typed', () => {
    const area = compiledForm(withOne(brought('decimal', { column: 'cbedarea' })));
    const of = (value: RecordValue['values'][string]): RecordValue => ({
      id: 'b',
      title: 'B',
      values: { cbedarea: value },
    });
    const copied = (value: RecordValue['values'][string]) =>
      copiesOf(area, place, of(value), null, at(null))[0]?.[1];
    expect(copied(new Big('18.50'))).toBe('18.5');
    expect(copied(true)).toBe(true);
    expect(copied({ id: 'r', title: 'R', values: {} })).toBe('r');
    expect(copied([])).toBeNull();
  });

  it('writes nothing elsewhere: of another lookup, or where the answer follows its record', () => {
    expect(copiesOf(form, ['qtrproduct'], bed('x'), null, at(null))).toEqual([]);
    const follows = compiledForm(withOne(brought('text', { keep: 'following' })));
    expect(copiesOf(follows, place, bed('x'), null, at(null))).toEqual([]);
    expect(beds.columns.some(({ id }) => id === 'cbedname')).toBe(true);
  });

  it('in a row writes into that row alone', () => {
    const own = compiledForm(
      addColumn(
        design,
        group?.id ?? '',
        brought('text', { lookup: 'qtrproduct', column: 'cproname' }) as FieldQuestion,
      ),
    );
    const product: RecordValue = { id: 'p', title: 'P', values: { cproname: 'Soap' } };
    expect(copiesOf(own, ['qtrlines', 'r2', 'qtrproduct'], product, null, at(null))).toEqual([
      [['qtrlines', 'r2', 'qcarry'], 'Soap'],
    ]);
    expect(copiesOf(own, ['qtrproduct'], product, null, at(null))).toEqual([]);
  });
});
