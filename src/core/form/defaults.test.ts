import { describe, expect, it } from 'vitest';
import { design, world } from '../../../tests/support/designs';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { worldOf } from '../../../tests/support/workspace';
import { beginningIssues, defaultAnswers } from './defaults';
import { questionsOf, type Beginning, type FieldQuestion, type FormDesign, type Question } from './design';
import { asKind, replaceQuestion, type AskedKind } from './edit';

/** What a new sheet and a new row begin with: what the columns they are kept in have as their default. */
const column = (id: string, kind: Column['kind'], preset: string): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id,
  kind,
  default: preset,
});
const table = (id: string, columns: Column[]): Table => ({
  ...plainTable,
  id,
  key: id,
  label: id,
  prefix: 'X',
  columns,
});
const group = questionsOf(design).find(({ kind }) => kind === 'rows');
const begins = (columns: Column[], rows: Column[] = [], of: FormDesign = design) => {
  const tables = new Map([[of.table.id, table(of.table.id, columns)]]);
  if (group?.kind === 'rows') tables.set(group.table.id, table(group.table.id, rows));
  return defaultAnswers(of, tables, world);
};

describe('a new sheet', () => {
  it('begins with the defaults of its columns, as they would be typed', () => {
    const { answers, rows } = begins(
      [
        column('qtrplanned', 'date', 'today()'),
        column('qtrclosed', 'yes-no', 'true'),
        column('qtrseen', 'text', ' '),
      ],
      [column('qtrrate', 'decimal', '2.5')],
    );
    expect(answers).toEqual({ values: { qtrplanned: '2026-11-23', qtrclosed: true }, rows: {}, reasons: {} });
    expect(rows).toEqual({ [group?.id ?? '']: { qtrrate: '2.5' } });
  });

  it('begins with nothing where a default cannot be read, is not typed, or comes with a pick', () => {
    expect(begins([column('qtrplanned', 'date', 'today(')]).answers.values).toEqual({});
    // What is calculated is not typed, and rows have no column.
    expect(
      begins([column('qtrtotal', 'decimal', '3'), column('qtrlines', 'text', '"x"')]).answers.values,
    ).toEqual({});
    const carried = replaceQuestion(
      design,
      'qtrseen',
      (question) =>
        ({ ...question, carry: { lookup: 'qtrbed', column: 'cbedname', keep: 'copied' } }) as Question,
    );
    expect(begins([column('qtrseen', 'text', '"x"')]).answers.values).toEqual({ qtrseen: 'x' });
    expect(begins([column('qtrseen', 'text', '"x"')], [], carried).answers.values).toEqual({});
    expect(defaultAnswers(design, new Map(), world).answers.values).toEqual({});
  });
});

describe('a new row', () => {
  const rate = (begins: Beginning): FormDesign =>
    replaceQuestion(design, 'qtrrate', (question) => ({ ...question, begins }) as Question);
  const rows = (of: FormDesign) =>
    begins([], [column('qtrrate', 'decimal', '2.5')], of).rows[group?.id ?? ''];

  it('begins with what its column is to begin with, before the default of where it is kept', () => {
    expect(rows(rate({ t: 'value', raw: '7' }))).toEqual({ qtrrate: '7' });
    expect(rows(rate({ t: 'formula', expression: '3 * 4' }))).toEqual({ qtrrate: '12.0' });
    expect(rows(rate({ t: 'formula', expression: '1 / 0' }))).toEqual({ qtrrate: '2.5' });
  });

  it('knows nothing of an address or of the last time', () => {
    for (const t of ['address', 'last'] as const) expect(rows(rate({ t }))).toEqual({ qtrrate: '2.5' });
  });
});

describe('what a question begins with', () => {
  const asked = (id: string, kind: AskedKind, begins: Beginning): FieldQuestion =>
    ({
      ...asKind({ id, key: id, label: id, hint: '', required: false }, kind, design.table),
      begins,
    }) as FieldQuestion;
  const ines = {
    id: '01900000-0000-7000-8000-000000000001',
    name: 'Ines',
    place: 'Plant records',
    email: 'i@q.example',
  };
  const questions = [
    asked('qvalue', 'whole', { t: 'value', raw: '3' }),
    asked('qday', 'date', { t: 'formula', expression: 'today() + duration("P1D")' }),
    asked('qplace', 'text', { t: 'formula', expression: 'sender.place' }),
    asked('qwho', 'person', { t: 'formula', expression: 'sender' }),
    asked('qhouse', 'text', { t: 'address' }),
    asked('qyes', 'yes-no', { t: 'address' }),
    asked('qlast', 'text', { t: 'last' }),
  ];
  const form = { ...design, sections: [{ id: 's', title: '', questions }], checks: [] };
  const world = worldOf('2026-11-23T10:00:00', ines);

  it('is a value, what an expression gives, what the address says, or the last answer', () => {
    const { answers } = defaultAnswers(form, new Map(), world, {
      address: { qhouse: 'Fern house', qyes: 'yes', toString: 'x' },
      last: { values: { qlast: 'as before', qvalue: '9' }, rows: {}, reasons: {} },
    });
    expect(answers.values).toEqual({
      qvalue: '3',
      qday: '2026-11-24',
      qplace: 'Plant records',
      qwho: ines.id,
      qhouse: 'Fern house',
      qyes: true,
      qlast: 'as before',
    });
    expect(defaultAnswers(form, new Map(), world).answers.values).not.toHaveProperty('qhouse');
  });

  it('is told where it cannot be read, or a hidden answer would stay empty', () => {
    expect(questions.flatMap(beginningIssues)).toEqual([]);
    const wrong = [
      asked('qa', 'whole', { t: 'value', raw: 'three' }),
      asked('qb', 'date', { t: 'formula', expression: 'sender.place' }),
      asked('qc', 'text', { t: 'formula', expression: 'sender.plcae' }),
      { ...asked('qd', 'text', { t: 'last' }), begins: undefined, hidden: true as const, required: true },
    ];
    expect(wrong.map((one) => beginningIssues(one)[0]?.code)).toEqual([
      'not-a-number',
      'result-type',
      'unknown-column',
      'hidden-empty',
    ]);
  });
});
