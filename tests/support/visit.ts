import Big from 'big.js';
import { sheetIssues } from '../../src/core/check/sheet-issues';
import type { RecordValue } from '../../src/core/expression/value';
import { isBig } from '../../src/core/expression/value';
import type { Answers } from '../../src/core/form/answers';
import { recordKey, type Place, type Records } from '../../src/core/form/cells';
import type { FormDesign } from '../../src/core/form/design';
import { Sheet } from '../../src/core/form/sheet';
import { compiledForm, world } from './designs';

/** A visit: a form with everything a sheet has to keep in order: conditions of sections, questions and cells, copies, followers, filters over rows. */
export const BED = '01900000-0000-7000-9000-000000000001';
const base = (id: string, label = id) => ({ id, key: id, label, hint: '', required: false });
const target = {
  id: '01900000-0000-7000-8000-000000000009',
  key: 'visits',
  label: 'Visits',
  prefix: 'V',
};
export const visitDesign: FormDesign = {
  format: 1,
  title: 'Visit',
  area: '',
  steps: [],
  table: target,
  checks: [
    {
      id: 'clong',
      on: 'qkeep',
      must: 'count(qlines[qcount > 3]) <= 1',
      message: 'Only one large lot',
      otherwise: 'stop',
    },
    {
      id: 'cguide',
      on: 'qguide',
      must: 'string length(qguide) > 2',
      message: 'A longer name',
      otherwise: 'stop',
    },
  ],
  sections: [
    {
      id: 's1',
      title: 'Visit',
      questions: [
        { ...base('qguided'), kind: 'yes-no' },
        { ...base('qguide'), kind: 'text', long: false, askWhen: 'qguided', required: true },
        { ...base('qbed'), kind: 'lookup', table: BED, show: [] },
        {
          ...base('qarea'),
          kind: 'decimal',
          decimals: 2,
          unit: '',
          carry: { lookup: 'qbed', column: 'carea', keep: 'copied' },
        },
        {
          ...base('qhouse'),
          kind: 'text',
          long: false,
          carry: { lookup: 'qbed', column: 'chouse', keep: 'following' },
        },
        { ...base('qnote'), kind: 'text', long: true, requireWhen: 'qarea > 20' },
        {
          ...base('qkeep'),
          kind: 'calculated',
          expression: 'sum(for x in qlines[qdone] return x.qcount * 2)',
          decimals: 0,
          unit: '',
        },
        {
          ...base('qdue'),
          kind: 'calculated',
          expression: 'qday + duration("P14D")',
          decimals: 0,
          unit: '',
          gives: 'date',
        },
        { ...base('qday'), kind: 'date' },
      ],
    },
    {
      id: 's2',
      title: 'Lots',
      showWhen: 'qguided or qarea > 10',
      questions: [
        {
          ...base('qlines'),
          kind: 'rows',
          required: true,
          least: 0,
          most: 20,
          table: { ...target, id: '01900000-0000-7000-8000-000000000008', key: 'lots' },
          totals: [{ id: 'qall', key: 'qall', label: 'All', column: 'qcount' }],
          columns: [
            { ...base('qcount'), kind: 'whole', unit: '' },
            { ...base('qdone'), kind: 'yes-no' },
            { ...base('qwhy'), kind: 'text', long: false, askWhen: 'not(qdone)', required: true },
            {
              ...base('qshare'),
              kind: 'calculated',
              expression: 'qcount / sum(qlines.qcount)',
              decimals: 4,
              unit: '',
            },
            {
              ...base('qtype'),
              kind: 'choice',
              choices: [
                { code: 'seed', label: 'Seed' },
                { code: 'plant', label: 'Plant' },
              ],
            },
          ],
        },
      ],
    },
  ],
};
export const visitBed = (n: number, area: string, house: string): RecordValue => ({
  id: `b${n}`,
  title: `Bed ${n}`,
  values: { carea: new Big(area), chouse: house },
});
export const visitRecords: Records = new Map(
  [visitBed(1, '18.5', 'Fern'), visitBed(2, '25', 'Palm')].map((one) => [recordKey(BED, one.id), one]),
);
export const empty: Answers = { values: {}, rows: {}, reasons: {} };
export const sheetOf = (answers: Answers = empty): Sheet =>
  new Sheet(compiledForm(visitDesign), answers, visitRecords, world);
export const codes = (sheet: Sheet) => sheetIssues(sheet).map(({ code, path }) => [code, ...path]);
export const shownAt = (sheet: Sheet, ...place: string[]) => {
  const value = sheet.value(place as unknown as Place);
  return isBig(value) ? value.toString() : value;
};
export const lines = (...cells: Record<string, string | boolean>[]): Answers['rows'] => ({
  qlines: cells.map((one, i) => ({ id: `r${i}`, cells: one })),
});

/** All that a sheet shows. */
export const worth = (sheet: Sheet) => {
  const places: Place[] = [
    ...['qkeep', 'qdue', 'qall', 'qguide', 'qhouse', 'clong'].map((id): Place => [id]),
    ...(sheet.answers().rows['qlines'] ?? []).flatMap((row) =>
      ['qshare', 'qwhy', 'qcount'].map((id): Place => ['qlines', row.id, id]),
    ),
  ];
  return JSON.stringify(
    [
      sheet.answers(),
      places.map((place) => [place, sheet.isAsked(place), shownAt(sheet, ...place)]),
      codes(sheet),
    ],
    (_, value: unknown) => (value === null ? undefined : value),
  );
};
