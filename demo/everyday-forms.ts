import { PEOPLE } from '../src/core/expression/type';
import type { FormDesign } from '../src/core/form/design';
import type { Rule } from '../src/core/rules/rules';
import { plainColumn, plainTable, type Column, type Table } from '../src/core/table/model';
import { choicesOf } from './lists';
import { personNamed } from './people';
import { base, calculated, choice, date, lookup, target, text } from './questions';
import { seedHarvest } from './seed-harvest';
import { tableId } from './tables';

/** What the garden does every day beside its plants: it orders, volunteers work, schools come. */
const column = (
  id: string,
  key: string,
  label: string,
  kind: Column['kind'],
  more: Partial<Column> = {},
): Column => ({ ...plainColumn, id, key, label, kind, ...more });

export const suppliers: Table = {
  ...plainTable,
  id: tableId(10),
  key: 'suppliers',
  label: 'Suppliers',
  prefix: 'S',
  title: ['csupname'],
  columns: [
    column('csupname', 'name', 'Name', 'text', { required: true, unique: true }),
    column('csuptown', 'town', 'Town', 'text'),
    column('csupmail', 'email', 'E-mail', 'e-mail'),
    column('csupactive', 'delivers', 'Delivers to us', 'yes-no', { required: true }),
  ],
};

export const teams = ['Glasshouses', 'Woodland', 'Rock terraces', 'Welcome desk'];

export const volunteers: Table = {
  ...plainTable,
  id: tableId(11),
  key: 'volunteers',
  label: 'Volunteers',
  prefix: 'V',
  title: ['cvolname'],
  columns: [
    column('cvolname', 'name', 'Name', 'text', { required: true, personal: 'name' }),
    column('cvolgroup', 'team', 'Team', 'choice', { required: true, choices: choicesOf(teams) }),
    column('cvolsince', 'since', 'With us since', 'date'),
    // Seen by those who see to the tables (`load.ts`).
    column('cvolphone', 'phone', 'Telephone', 'phone', { personal: 'phone', restricted: true }),
    column('cvolhours', 'hours_given', 'Hours given', 'decimal', { decimals: 1, unit: 'h' }),
    column('cvollast', 'last_here', 'Last here', 'date'),
  ],
};

const costCentres = ['Plant records', 'Plant health', 'Glasshouses', 'Visitors'];

/** Who decides what amount for whom: finance always, the director where much is asked for. */
const limit = (id: string, total: string, centre: string, days: number, director: boolean): Rule => ({
  id,
  cells: [
    { condition: 'qsrltotal', test: total },
    ...(centre === '' ? [] : [{ condition: 'qsrlcentre', test: centre }]),
  ],
  gives: [
    { step: 'qsrs1', people: [personNamed('Osei').id], days },
    director
      ? { step: 'qsrs2', people: [personNamed('Dagny').id] }
      : { step: 'qsrs2', people: [], nobody: true },
  ],
});

export const supplyRequest: FormDesign = {
  format: 1,
  title: 'Supply request',
  record: 'Supply request',
  area: 'Finance',
  table: target(12, 'supply_requests', 'Supply requests', 'SR'),
  sections: [
    {
      id: 'qsrsection',
      title: 'What is needed?',
      questions: [
        {
          ...lookup('qsrsupplier', 'supplier', 'Supplier', 10, ['csuptown', 'csupmail']),
          where: 'pick_csupactive = true',
        },
        { ...choice('qsrcentre', 'cost_centre', 'Cost centre', costCentres), again: true },
        {
          ...base('qsrlines', 'items', 'Items'),
          kind: 'rows',
          least: 1,
          most: 40,
          table: target(13, 'supply_lines', 'Supply lines', 'SL'),
          columns: [
            text('qsritem', 'thing', 'Item', false, true),
            { ...base('qsrcount', 'pieces', 'How many'), kind: 'whole', unit: '' },
            { ...base('qsrprice', 'price', 'Price each'), kind: 'money', decimals: 2, unit: 'GBP' },
            calculated('qsramount', 'amount', 'Amount', 'qsrcount * qsrprice', 2, 'GBP'),
          ],
          totals: [{ id: 'qsrtotal', key: 'total', label: 'Total', column: 'qsramount' }],
        },
        date('qsrby', 'needed_by', 'Needed by'),
        text('qsrwhy', 'reason', 'What is it for?', true, true),
      ],
    },
  ],
  checks: [
    {
      id: 'qsrc1',
      on: 'qsrcount',
      must: 'qsrcount > 0',
      message: 'Ask for one at least.',
      otherwise: 'stop',
    },
    {
      id: 'qsrc2',
      on: 'qsrby',
      must: 'qsrby >= today() + duration("P3D")',
      message: 'Most suppliers need three days.',
      otherwise: 'ask',
    },
    {
      id: 'qsrc3',
      on: 'qsrtotal',
      must: 'qsrtotal <= 5000',
      message: 'Above 5 000 the director wants to know why.',
      otherwise: 'ask',
    },
  ],
  steps: [
    { id: 'qsrs1', label: 'Finance', people: [] },
    { id: 'qsrs2', label: 'Director', people: [], fallback: personNamed('Dagny').id },
  ],
  rules: [
    {
      id: 'qsrlimits',
      label: 'Spending limits',
      hit: 'U',
      conditions: [
        { id: 'qsrltotal', expression: 'qsrtotal' },
        { id: 'qsrlcentre', expression: 'qsrcentre' },
      ],
      asks: ['qsrs1', 'qsrs2'],
      days: ['qsrs1'],
      rows: [
        limit('qsrl1', '<= 250', '', 1, false),
        limit('qsrl2', '(250..5000]', 'not("visitors")', 2, false),
        limit('qsrl3', '(250..5000]', '"visitors"', 2, true),
        limit('qsrl4', '> 5000', '', 3, true),
      ],
    },
  ],
};

export const shiftLog: FormDesign = {
  format: 1,
  title: 'Shift log',
  record: 'Shift',
  after: { message: 'Thank you all for the day.', next: 'another' },
  area: 'Volunteers',
  table: target(14, 'shifts', 'Shifts', 'SH'),
  sections: [
    {
      id: 'qshsection',
      title: 'Who was here, and what was done?',
      questions: [
        { ...date('qshday', 'worked_on', 'Day'), again: true, onChange: 'locked' },
        { ...choice('qshteam', 'team', 'Team', teams), again: true, onChange: 'locked' },
        {
          ...base('qshpeople', 'people', 'Volunteers'),
          kind: 'rows',
          least: 1,
          most: 60,
          table: target(15, 'shift_hours', 'Shift hours', 'HR'),
          columns: [
            lookup('qshwho', 'who', 'Volunteer', 11, ['cvolgroup', 'cvolsince']),
            { ...base('qshhours', 'hours', 'Hours'), kind: 'decimal', decimals: 1, unit: 'h' },
            text('qshwork', 'work', 'What was done'),
          ],
          totals: [{ id: 'qshtotal', key: 'hours_in_all', label: 'In all', column: 'qshhours' }],
          distinct: ['qshwho'],
          // The team is there; whoever helps out for a day is picked beside it.
          starts: { t: 'each', lookup: 'qshwho', where: 'pick_cvolgroup = qshteam' },
        },
        text('qshnote', 'note', 'Anything to know tomorrow?', true),
      ],
    },
  ],
  checks: [
    {
      id: 'qshc1',
      on: 'qshday',
      must: 'qshday <= today()',
      message: 'This day is still to come.',
      otherwise: 'stop',
    },
    {
      id: 'qshc2',
      on: 'qshhours',
      must: 'qshhours > 0 and qshhours <= 10',
      message: 'Up to ten hours a day.',
      otherwise: 'stop',
    },
  ],
  existing: [
    {
      id: 'qshx1',
      on: 'qshday',
      message: 'This team has a log for this day already; change that one.',
      same: ['qshday', 'qshteam'],
      rule: { t: 'unique' },
    },
  ],
  steps: [],
  further: [
    {
      t: 'change',
      id: 'qshf1',
      each: 'qshpeople',
      lookup: 'qshwho',
      sets: [
        { column: 'cvolhours', how: 'raise', expression: 'qshhours' },
        { column: 'cvollast', how: 'set', expression: 'qshday' },
      ],
    },
  ],
};

export const schoolVisit: FormDesign = {
  format: 1,
  title: 'School visit',
  record: 'School visit',
  after: {
    message:
      'Thank you. We write to you within two working days.\nPlease bring clothes for any weather; most of the garden is outside.',
    next: 'submission',
  },
  area: 'Visitors',
  table: target(16, 'school_visits', 'School visits', 'SV'),
  sections: [
    {
      id: 'qsvsection',
      title: 'Who would like to come?',
      questions: [
        text('qsvschool', 'school', 'School', false, true),
        text('qsvcontact', 'contact', 'Who arranges it?', false, true),
        { ...base('qsvmail', 'email', 'E-mail'), kind: 'e-mail' },
        { ...base('qsvphone', 'phone', 'Telephone', false), kind: 'phone' },
      ],
    },
    {
      id: 'qsvsection2',
      title: 'The visit',
      questions: [
        date('qsvday', 'visits_on', 'Day'),
        { ...base('qsvtime', 'arrives_at', 'Arrives at'), kind: 'time' },
        { ...base('qsvchildren', 'children', 'Children'), kind: 'whole', unit: '' },
        {
          ...base('qsvplaces', 'places', 'What would they like to see?', false),
          kind: 'rows',
          asPicks: true,
          least: 0,
          most: 6,
          table: target(17, 'visit_places', 'Places of visits', 'VP'),
          columns: [
            { ...lookup('qsvplace', 'place', 'Bed', 1, ['cbedhouse']), where: 'pick_cbedopen = true' },
          ],
          totals: [],
          distinct: ['qsvplace'],
        },
        choice('qsvyear', 'school_year', 'School year', ['Nursery', 'Primary', 'Secondary', 'Mixed']),
        {
          ...base('qsvneeds', 'needs', 'What should we know?', false),
          kind: 'choices',
          choices: choicesOf(['Wheelchair access', 'Allergies', 'A quiet room', 'Somewhere to eat']),
        },
        {
          ...base('qsvteacher', 'teacher_stays', 'Supervision'),
          kind: 'confirmation',
          statement: 'A teacher stays with each group of fifteen all the time.',
        },
        {
          ...base('qsvguide', 'guide', 'Guide', false),
          kind: 'lookup',
          table: PEOPLE,
          show: ['place'],
          onNew: 'hidden',
        },
      ],
    },
  ],
  checks: [
    {
      id: 'qsvc1',
      on: 'qsvday',
      must: 'qsvday >= today() + duration("P7D")',
      message: 'We need a week to prepare.',
      otherwise: 'stop',
    },
    {
      id: 'qsvc2',
      on: 'qsvchildren',
      must: 'qsvchildren >= 1 and qsvchildren <= 60',
      message: 'We can guide up to 60 children at once.',
      otherwise: 'stop',
    },
  ],
  existing: [
    {
      id: 'qsvx1',
      on: 'qsvday',
      message: 'Two schools come on this day already.',
      same: [],
      rule: { t: 'at-most', most: 2, per: 'day', date: 'qsvday' },
    },
  ],
  steps: [
    { id: 'qsvs1', label: 'Visitor service', people: [personNamed('Dagny').id, personNamed('Ines').id] },
  ],
};

export const everydayForms = [
  { key: 'supply_request', design: supplyRequest },
  { key: 'shift_log', design: shiftLog },
  { key: 'school_visit', design: schoolVisit },
  { key: 'seed_harvest', design: seedHarvest },
] as const;
