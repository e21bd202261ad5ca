import type { FormDesign, Question } from '../src/core/form/design';
import { choicesOf, conditions, waysOfComing } from './lists';
import { personNamed } from './people';
import { base, calculated, choice, date, decimal, lookup, ofList, target, text, yesNo } from './questions';
import { PEOPLE } from '../src/core/expression/type';

/** The three forms the garden begins with. */
/** What pests are seen by. */
export const signs = choicesOf([
  'Wilting',
  'Yellow leaves',
  'Leaf spots',
  'Scale insects',
  'Aphids',
  'Mould',
]);

const treatmentRows: Question = {
  ...base('qtrlines', 'products', 'Products to apply'),
  kind: 'rows',
  least: 1,
  most: 8,
  table: target(5, 'treatment_lines', 'Treatment lines', 'TRL'),
  columns: [
    {
      ...lookup('qtrproduct', 'product', 'Product', 3, ['cprolicence', 'cproactive', 'cprostock']),
      where: 'pick_cprostock > 0',
    },
    decimal('qtrrate', 'rate', 'Rate', 1, 'ml/m²'),
    calculated('qtrarea', 'area', 'Area', 'qtrbed.cbedarea', 2, 'm²'),
    calculated('qtramount', 'amount', 'Amount', 'qtrrate * qtrarea', 1, 'ml'),
  ],
  totals: [{ id: 'qtrtotal', key: 'total', label: 'Total', column: 'qtramount' }],
};

export const treatmentRequest: FormDesign = {
  format: 1,
  title: 'Treatment request',
  record: 'Treatment',
  area: 'Plant health',
  table: target(4, 'treatments', 'Treatments', 'TR'),
  sections: [
    {
      id: 'qtrsection',
      title: 'Where is it, and what did you see?',
      questions: [
        lookup('qtrbed', 'bed', 'Bed', 1, ['cbedhouse']),
        calculated('qtrbedarea', 'bed_area', 'Area of bed', 'qtrbed.cbedarea', 2, 'm²'),
        treatmentRows,
        date('qtrplanned', 'planned_on', 'When should it be done?'),
        yesNo('qtrclosed', 'path_closed', 'Will the public path be closed?'),
        text('qtrseen', 'seen', 'What did you see?', true),
      ],
    },
  ],
  checks: [
    {
      id: 'qtrc1',
      on: 'qtrrate',
      must: 'qtrrate <= qtrproduct.cpromax',
      message: 'Above the label’s top rate of {qtrproduct.cpromax} ml/m².',
      otherwise: 'stop',
    },
    {
      id: 'qtrc2',
      on: 'qtramount',
      must: 'qtramount <= qtrproduct.cprostock',
      message: 'More than there is in stock.',
      otherwise: 'ask',
    },
    {
      id: 'qtrc3',
      on: 'qtrplanned',
      must: 'qtrplanned >= today()',
      message: 'Choose a coming day.',
      otherwise: 'stop',
    },
  ],
  steps: [
    { id: 'qtrs1', label: 'Section lead', people: [personNamed('Tomasz').id], within: 1 },
    {
      id: 'qtrs2',
      label: 'Plant health officer',
      people: ['Ada', 'Pell', 'Ruo'].map((name) => personNamed(name).id),
      within: 3,
      soon: 1,
      corrects: ['qtrrate'],
    },
  ],
};

export const plantIntake: FormDesign = {
  format: 1,
  title: 'Plant intake',
  record: 'Intake',
  area: 'Plant records',
  table: target(6, 'intakes', 'Intakes', 'PI'),
  sections: [
    {
      id: 'qpisection',
      title: 'What has come in?',
      questions: [
        date('qpireceived', 'received_on', 'Received on'),
        text('qpigiver', 'giver', 'Who gave or sold it?', false, true),
        ofList('qpisource', 'source', 'How did it come?', waysOfComing),
        yesNo('qpiabroad', 'from_abroad', 'Does any of it come from abroad?', true),
        { ...text('qpipermit', 'permit', 'Number of the permit', false, true), askWhen: 'qpiabroad' },
      ],
    },
    {
      id: 'qpisection2',
      title: 'The plants',
      questions: [
        {
          ...base('qpiplants', 'plants', 'Plants'),
          kind: 'rows',
          least: 1,
          most: 60,
          table: target(7, 'accessions', 'Accessions', 'AC'),
          columns: [
            lookup('qpitaxon', 'taxon', 'Taxon', 2, ['ctaxfamily']),
            { ...base('qpiquantity', 'quantity', 'Quantity'), kind: 'whole', unit: '' },
            lookup('qpibed', 'bed', 'Bed', 1, ['cbedhouse']),
            choice('qpistate', 'state', 'State', ['In quarantine', 'Growing on', 'Planted out']),
          ],
          totals: [{ id: 'qpitotal', key: 'plants_in_all', label: 'In all', column: 'qpiquantity' }],
        },
      ],
    },
  ],
  checks: [
    {
      id: 'qpic1',
      on: 'qpireceived',
      must: 'qpireceived <= today()',
      message: 'This day is still to come.',
      otherwise: 'stop',
    },
    {
      id: 'qpic2',
      on: 'qpiquantity',
      must: 'qpiquantity > 0',
      message: 'At least one plant.',
      otherwise: 'stop',
    },
    {
      id: 'qpic4',
      on: 'qpistate',
      must: 'not(qpiabroad) or qpistate = "in_quarantine"',
      message: 'What comes from abroad usually goes into quarantine.',
      otherwise: 'ask',
    },
  ],
  existing: [
    {
      id: 'qpix1',
      on: 'qpipermit',
      message: 'This permit has been used for another intake.',
      same: ['qpipermit'],
      rule: { t: 'unique' },
    },
  ],
  steps: [{ id: 'qpis1', label: 'Plant records', people: [personNamed('Ines').id, personNamed('Ada').id] }],
};

export const bedInspection: FormDesign = {
  format: 1,
  title: 'Bed inspection',
  record: 'Inspection',
  area: 'Plant health',
  table: target(8, 'inspections', 'Inspections', 'BI'),
  sections: [
    {
      id: 'qbisection',
      title: 'What does the bed look like?',
      questions: [
        {
          ...base('qbihow', 'how', 'Before you begin', false),
          kind: 'fixed-text',
          text: 'Look under the leaves as well, and at the soil between the plants.\nWhere pests were seen, clean your tools before you go to the next bed.',
        },
        lookup('qbibed', 'bed', 'Bed', 1, ['cbedhouse']),
        { ...date('qbion', 'inspected_on', 'Inspected on'), again: true },
        ofList('qbistate', 'condition', 'How does it look?', conditions),
        { ...base('qbidead', 'plants_lost', 'Plants lost'), kind: 'whole', unit: '' },
        yesNo('qbipests', 'pests_seen', 'Were pests seen?', true),
        {
          ...base('qbisigns', 'signs', 'What was seen?'),
          kind: 'choices',
          choices: signs,
          askWhen: 'qbipests = true',
        },
        {
          ...base('qbiclean', 'tools_cleaned', 'Tools'),
          kind: 'confirmation',
          statement: 'I have cleaned my tools and gloves after this bed.',
          askWhen: 'qbipests = true',
        },
        {
          ...base('qbicare', 'cared_for_by', 'Who takes care of it?', false),
          kind: 'lookup',
          table: PEOPLE,
          show: ['place', 'email'],
          askWhen: 'qbipests = true',
        },
        { ...base('qbiphotos', 'photos', 'Photos', false), kind: 'files', what: 'photos', most: 6 },
        text('qbinotes', 'notes', 'Notes', true),
      ],
    },
  ],
  checks: [
    {
      id: 'qbic1',
      on: 'qbidead',
      must: 'qbidead >= 0',
      message: 'Nothing can be lost less than none.',
      otherwise: 'stop',
    },
    {
      id: 'qbic2',
      on: 'qbion',
      must: 'qbion <= today()',
      message: 'This day is still to come.',
      otherwise: 'stop',
    },
  ],
  steps: [],
};
