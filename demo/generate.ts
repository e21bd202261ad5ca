import { signs } from './forms';
import type { Random } from './random';

/** Rows of the base tables and of past years, by key of column. */
export type Row = Readonly<Record<string, string | number | boolean | null | readonly string[]>>;

const houses: readonly [code: string, name: string, beds: number][] = [
  ['G1', 'Temperate house', 18],
  ['G2', 'Cool house', 16],
  ['G3', 'Arid house', 14],
  ['G4', 'Fern house', 20],
  ['P3', 'Nursery', 16],
  ['O1', 'Woodland', 24],
  ['O2', 'Rock terraces', 20],
];
const sides = [
  'north bench',
  'south bench',
  'east border',
  'west border',
  'centre bed',
  'door side',
  'long table',
];

export function bedRows(random: Random): Row[] {
  return houses.flatMap(([code, name, beds]) =>
    Array.from({ length: beds }, (_, i) => ({
      id: random.id(Date.UTC(2023, 0, 9)),
      code: `${code}-${String(i + 1).padStart(2, '0')}`,
      name: `${name}, ${sides[i % sides.length]}${i >= sides.length ? ` ${Math.floor(i / sides.length) + 1}` : ''}`,
      section: name,
      area: (random.whole(16, 180) / 4).toFixed(2),
      open_to_visitors: random.chance(0.7),
    })),
  );
}

export const genera = [
  'Blechnora',
  'Osmundella',
  'Dryopsina',
  'Adiantella',
  'Pterisia',
  'Cibotina',
  'Lygodea',
  'Marsilla',
  'Salvinea',
  'Todeana',
  'Woodsina',
  'Athyrina',
  'Quillmeria',
  'Farrowia',
  'Solheimia',
  'Adeyemia',
];
export const epithets = [
  'nova',
  'velata',
  'cana',
  'rosea',
  'alta',
  'lenta',
  'minor',
  'aurea',
  'plana',
  'fusca',
  'tenera',
  'lucens',
  'repens',
  'pallida',
  'hirta',
  'gracilis',
];
export const families = [
  'Blechnoraceae',
  'Osmundellaceae',
  'Pterisiaceae',
  'Quillmeriaceae',
  'Marsillaceae',
  'Farrowiaceae',
];

export function taxonRows(random: Random): Row[] {
  return genera.flatMap((genus, i) =>
    epithets.map((epithet) => ({
      id: random.id(Date.UTC(2023, 0, 10)),
      name: `${genus} ${epithet}`,
      family: families[i % families.length] ?? '',
      permit_needed: random.chance(0.12),
    })),
  );
}

const productNames: readonly [name: string, active: string, max: number, restricted: boolean][] = [
  ['Soft soap spray 2%', 'potassium soap', 80, false],
  ['Nemavar drench', 'nematodes', 40, true],
  ['Garlovex', 'garlic extract', 60, false],
  ['Sulphara dust', 'sulphur', 12.5, true],
  ['Horsetail tea', 'silica', 120, false],
  ['Neemora', 'plant oil', 35, false],
  ['Copperil 5', 'copper salt', 8, true],
  ['Mycelia guard', 'mycorrhiza', 50, false],
  ['Lichen wash', 'acetic acid', 25, false],
  ['Scale-off oil', 'paraffin oil', 45, true],
  ['Root rinse', 'quartz', 90, false],
  ['Predomite sachets', 'mites', 10, false],
  ['Thripaway', 'plant soap', 55, false],
  ['Bark balm', 'clay', 30, false],
];

export function productRows(random: Random): Row[] {
  return productNames.map(([name, active, max, restricted], i) => ({
    id: random.id(Date.UTC(2023, 0, 11)),
    name,
    licence: `QL-${1200 + i * 7}`,
    active,
    max_rate: max.toFixed(1),
    in_stock: random.whole(4, 60) * 100,
    restricted,
  }));
}

export interface Past {
  readonly table: string;
  readonly rows: Row[];
}

interface Known {
  readonly beds: readonly Row[];
  readonly taxa: readonly Row[];
  readonly products: readonly Row[];
  readonly people: readonly string[];
}

export const DAY = 86_400_000;
const givers = [
  'Harbour Garden Exchange',
  'Fenwick Seed Circle',
  'Upper Moor Survey',
  'Larkrise Nursery',
  'Tarn Valley Arboretum',
  'Members’ plant sale',
];
const sources = ['exchange', 'seed', 'wild_collected', 'purchase'];
const states = ['in_quarantine', 'growing_on', 'growing_on', 'planted_out', 'planted_out', 'planted_out'];

/** Three years of the garden up to `today` (ms): intakes with their accessions, treatments with their lines, inspections. */
export function pastRows(random: Random, today: number, known: Known): Past[] {
  const number = numbering();
  const intakes = Array.from({ length: 1_060 }, () => today - random.whole(2, 1_080) * DAY)
    .sort((a, b) => a - b)
    .map((at) => intake(random, at, known, number));
  const treatments = Array.from({ length: 1_512 }, () => today - random.whole(2, 1_080) * DAY)
    .sort((a, b) => a - b)
    .map((at) => treatment(random, at, known, number));
  const inspections = Array.from({ length: 900 }, () => today - random.whole(2, 720) * DAY)
    .sort((a, b) => a - b)
    .map((at) => inspection(random, at, known, number));
  return [
    { table: 'intakes', rows: intakes.map(([parent]) => parent) },
    { table: 'accessions', rows: intakes.flatMap(([, rows]) => rows) },
    { table: 'treatments', rows: treatments.map(([parent]) => parent) },
    { table: 'treatment_lines', rows: treatments.flatMap(([, rows]) => rows) },
    { table: 'inspections', rows: inspections },
  ];
}

export type Numbering = (prefix: string, at: number) => string;

/** Numbers by year, as the counters would have given them. */
export function numbering(): Numbering {
  const last = new Map<string, number>();
  return (prefix, at) => {
    const series = `${prefix}-${new Date(at).getUTCFullYear()}`;
    const next = (last.get(series) ?? 0) + 1;
    last.set(series, next);
    return `${series}-${String(next).padStart(4, '0')}`;
  };
}

export const day = (at: number): string => new Date(at).toISOString().slice(0, 10);
export const madeAt = (random: Random, at: number): string =>
  new Date(Math.floor(at / DAY) * DAY + random.whole(8 * 60, 17 * 60) * 60_000).toISOString();

function intake(random: Random, at: number, { beds, taxa, people }: Known, number: Numbering): [Row, Row[]] {
  const id = random.id(at);
  const source = random.pick(sources);
  const made = { created_at: madeAt(random, at), created_by: random.pick(people) };
  const abroad = random.chance(0.2);
  const rows = Array.from({ length: random.whole(1, 7) }, (_, i): Row => ({
    id: random.id(at),
    number: number('AC', at),
    parent_id: id,
    position: i + 1,
    taxon: random.pick(taxa)['id'] ?? null,
    quantity: random.pick([1, 3, 6, 8, 12, 16, 20, 24, 36, 48, 60, 90, 200]),
    bed: random.pick(beds)['id'] ?? null,
    state: abroad ? 'in_quarantine' : random.pick(states),
    ...made,
  }));
  const all = rows.reduce((sum, row) => sum + Number(row['quantity']), 0);
  return [
    {
      id,
      number: number('PI', at),
      received_on: day(at),
      giver: random.pick(givers),
      source,
      from_abroad: abroad,
      permit: abroad ? `PN-${random.whole(10_000, 99_999)}` : null,
      plants_in_all: all,
      ...made,
    },
    rows,
  ];
}

function treatment(
  random: Random,
  at: number,
  { beds, products, people }: Known,
  number: Numbering,
): [Row, Row[]] {
  const id = random.id(at);
  const bed = random.pick(beds);
  const area = Number(bed['area']);
  const made = { created_at: madeAt(random, at), created_by: random.pick(people) };
  const rows = Array.from({ length: random.whole(1, 3) }, (_, i): Row => {
    const product = random.pick(products);
    const rate = Math.round(Number(product['max_rate']) * (0.4 + random.next() * 0.6) * 2) / 2;
    return {
      id: random.id(at),
      number: number('TRL', at),
      parent_id: id,
      position: i + 1,
      product: product['id'] ?? null,
      rate,
      area,
      amount: (Math.round(rate * area * 10) / 10).toFixed(1),
      ...made,
    };
  });
  const total = rows.reduce((sum, row) => sum + Number(row['amount']), 0).toFixed(1);
  const seen = random.chance(0.4)
    ? random.pick([
        'Scale on the undersides',
        'Mildew near the door',
        'Aphids on new growth',
        'Thrips on the bench edge',
        'Leaf spot, spreading',
      ])
    : null;
  return [
    {
      id,
      number: number('TR', at),
      bed: bed['id'] ?? null,
      bed_area: area,
      planned_on: day(at + 2 * DAY),
      path_closed: random.chance(0.3),
      seen,
      total,
      ...made,
    },
    rows,
  ];
}

function inspection(random: Random, at: number, { beds, people }: Known, number: Numbering): Row {
  const pests = random.chance(0.2);
  const seen = signs.filter(() => random.chance(0.3)).map(({ code }) => code);
  return {
    id: random.id(at),
    number: number('BI', at),
    bed: random.pick(beds)['id'] ?? null,
    inspected_on: day(at),
    condition: random.pick(['thriving', 'thriving', 'fair', 'fair', 'poor', 'failing']),
    plants_lost: random.chance(0.7) ? 0 : random.whole(1, 9),
    pests_seen: pests,
    signs: pests && seen.length > 0 ? seen : null,
    tools_cleaned: pests ? true : null,
    cared_for_by: pests && random.chance(0.6) ? random.pick(people) : null,
    notes: random.chance(0.3)
      ? random.pick([
          'Water more on the window side',
          'Labels faded',
          'Ready for dividing',
          'Moss on the path',
        ])
      : null,
    created_at: madeAt(random, at),
    created_by: random.pick(people),
  };
}
