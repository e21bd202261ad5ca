import type { AnswerRow, Answers } from '../src/core/form/answers';
import type { FormDesign } from '../src/core/form/design';
import { day, DAY, type Row } from './generate';
import { base, date, decimal, lookup, target, text } from './questions';
import type { Random } from './random';

/** Seeds as they come in from the beds: the lots of each plant, which are dried and stored apart. */
export const seedHarvest: FormDesign = {
  format: 1,
  title: 'Seed harvest',
  record: 'Seed harvest',
  area: 'Plant records',
  table: target(18, 'seed_harvests', 'Seed harvests', 'HV'),
  sections: [
    {
      id: 'qhvsection',
      title: 'What was gathered?',
      questions: [
        { ...date('qhvday', 'gathered_on', 'Gathered on'), again: true },
        { ...lookup('qhvbed', 'bed', 'Bed', 1, ['cbedhouse', 'cbedarea']), again: true },
        {
          ...base('qhvplants', 'plants', 'Plants'),
          kind: 'rows',
          least: 1,
          most: 40,
          table: target(19, 'harvested_plants', 'Harvested plants', 'HP'),
          columns: [
            lookup('qhvtaxon', 'taxon', 'Taxon', 2, ['ctaxfamily']),
            { ...base('qhvgathered', 'mother_plants', 'Mother plants'), kind: 'whole', unit: '' },
          ],
          totals: [],
          distinct: ['qhvtaxon'],
        },
        {
          ...base('qhvlots', 'lots', 'Lots'),
          kind: 'rows',
          within: 'qhvplants',
          least: 1,
          most: 12,
          table: target(20, 'seed_lots', 'Seed lots', 'LT'),
          columns: [
            text('qhvlabel', 'label', 'On the packet', false, true),
            { ...base('qhvseeds', 'seeds', 'Seeds'), kind: 'whole', unit: '' },
            decimal('qhvmoist', 'moisture', 'Moisture', 1, '%'),
          ],
          totals: [{ id: 'qhvall', key: 'seeds_in_all', label: 'In all', column: 'qhvseeds' }],
          distinct: ['qhvlabel'],
        },
        text('qhvnote', 'note', 'Anything the seed store should know?', true),
      ],
    },
  ],
  checks: [
    {
      id: 'qhvc1',
      on: 'qhvday',
      must: 'qhvday <= today()',
      message: 'This day is still to come.',
      otherwise: 'stop',
    },
    {
      id: 'qhvc2',
      on: 'qhvseeds',
      must: 'qhvseeds > 0',
      message: 'An empty packet is no lot.',
      otherwise: 'stop',
    },
    {
      id: 'qhvc3',
      on: 'qhvmoist',
      must: 'qhvmoist <= 12',
      message: 'Above 12 % seeds must be dried first.',
      otherwise: 'stop',
    },
    {
      id: 'qhvc4',
      on: 'qhvall',
      must: 'qhvall >= 50 * qhvgathered',
      message: 'Fewer than 50 seeds from each mother plant.',
      otherwise: 'ask',
    },
  ],
  steps: [],
};

/** What somebody brings in on a day: two or three plants, a few packets of each. */
export function harvestAnswers(
  random: Random,
  now: Date,
  { beds, taxa }: { readonly beds: readonly Row[]; readonly taxa: readonly Row[] },
): Answers {
  const picked = [
    ...new Set(Array.from({ length: random.whole(2, 3) }, () => String(random.pick(taxa)['id']))),
  ];
  const plants = picked.map((taxon): AnswerRow => ({
    id: random.id(now.getTime()),
    cells: { qhvtaxon: taxon, qhvgathered: String(random.whole(1, 4)) },
  }));
  const lots = plants.flatMap((plant) =>
    Array.from({ length: random.whole(1, 3) }, (_, i): AnswerRow => ({
      id: random.id(now.getTime()),
      of: plant.id,
      cells: {
        qhvlabel: `Packet ${i + 1}`,
        qhvseeds: String(random.whole(80, 400)),
        qhvmoist: random.pick(['6.5', '7.0', '8.5', '11.0']),
      },
    })),
  );
  return {
    values: {
      qhvday: day(now.getTime() - random.whole(0, 2) * DAY),
      qhvbed: String(random.pick(beds)['id']),
    },
    rows: { qhvplants: plants, qhvlots: lots },
    reasons: { qhvc4: 'A poor year for it.' },
  };
}
