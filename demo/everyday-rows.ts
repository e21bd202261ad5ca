import type { Answers } from '../src/core/form/answers';
import { teams } from './everyday-forms';
import { day, DAY, madeAt, numbering, type Numbering, type Past, type Row } from './generate';
import type { Random } from './random';

const towns = ['Larkrise', 'Upper Moor', 'Fenwick', 'Tarn Valley', 'Harbourside'];
const supplierNames = [
  'Moorland Pots',
  'Fenwick Substrates',
  'Tarn Valley Glass',
  'Larkrise Tools',
  'Harbour Irrigation',
  'Upper Moor Labels',
  'Bright Shelf Benches',
  'Quiet Hour Tea',
  'Old Mill Timber',
];

export const supplierRows = (random: Random): Row[] =>
  supplierNames.map((name, i) => ({
    id: random.id(Date.UTC(2023, 0, 12)),
    number: `S-2023-${String(i + 1).padStart(4, '0')}`,
    name,
    town: random.pick(towns),
    email: `orders@${name.toLowerCase().replaceAll(' ', '-')}.example`,
    delivers: i !== 8,
  }));

const first = [
  'Asta',
  'Bram',
  'Cleo',
  'Dario',
  'Edda',
  'Finn',
  'Greta',
  'Halvar',
  'Ida',
  'Jonas',
  'Kaia',
  'Lev',
  'Mina',
  'Noor',
  'Otto',
];
const last = ['Ashdown', 'Brevik', 'Calder', 'Dunmore'];

export const volunteerRows = (random: Random): Row[] =>
  last.flatMap((family, f) =>
    first.map((name, i) => ({
      id: random.id(Date.UTC(2023, 0, 13)),
      number: `V-2023-${String(f * first.length + i + 1).padStart(4, '0')}`,
      name: `${name} ${family}`,
      team: codeOf(teams[(i + f) % teams.length] ?? ''),
      since: day(Date.UTC(2019, 0, 1) + random.whole(0, 2_400) * DAY),
      phone: `+44 1632 96${String(f * 100 + i).padStart(4, '0')}`,
    })),
  );

/** Volunteers with what the shifts they were there for come to, as the shift log keeps it from now on. */
export function withHours(volunteers: readonly Row[], past: readonly Past[]): Row[] {
  const rowsOf = (table: string): readonly Row[] => past.find((one) => one.table === table)?.rows ?? [];
  const days = new Map(rowsOf('shifts').map((row) => [row['id'], String(row['worked_on'])]));
  const hours = rowsOf('shift_hours');
  return volunteers.map((one) => {
    const own = hours.filter(({ who }) => who === one['id']);
    const here = own.map((row) => days.get(row['parent_id'] ?? null) ?? '').sort();
    return {
      ...one,
      hours_given: own.reduce((sum, row) => sum + Number(row['hours']), 0).toFixed(1),
      last_here: here.at(-1) ?? null,
    };
  });
}

interface Known {
  readonly suppliers: readonly Row[];
  readonly volunteers: readonly Row[];
  readonly beds: readonly Row[];
  readonly people: readonly string[];
}

const items: readonly [item: string, price: number][] = [
  ['Clay pots, 20 cm', 2.4],
  ['Bench felt, per metre', 6.8],
  ['Drip line, 50 m', 38],
  ['Labels, box of 500', 21.5],
  ['Glass pane', 64],
  ['Secateurs', 29.9],
  ['Wheelbarrow', 89],
  ['Substrate, 70 l', 11.2],
];
const works = ['Potting on', 'Weeding the paths', 'Labels', 'Watering', 'Leaf mould', 'Tours', 'Tool shed'];
const schools = [
  'Larkrise Primary',
  'Upper Moor School',
  'Harbour Academy',
  'Fenwick Nursery',
  'Tarn Valley Secondary',
];
const codeOf = (label: string): string => label.toLowerCase().replaceAll(' ', '_');

/** Two years of orders, shifts and visits up to `today` (ms). */
export function everydayPast(random: Random, today: number, known: Known): Past[] {
  const number = numbering();
  const days = (many: number): number[] =>
    Array.from({ length: many }, () => today - random.whole(3, 700) * DAY).sort((a, b) => a - b);
  const orders = days(260).map((at) => order(random, at, known, number));
  const seen = new Set<string>();
  const shifts = days(360)
    .map((at) => ({ at, team: random.pick(teams) }))
    // A team has one log a day.
    .filter(({ at, team }) => !seen.has(`${day(at)} ${team}`) && seen.add(`${day(at)} ${team}`).size > 0)
    .map(({ at, team }) => shift(random, at, team, known, number));
  const visits = days(110).map((at) => visit(random, at, known, number));
  return [
    { table: 'supply_requests', rows: orders.map(([parent]) => parent) },
    { table: 'supply_lines', rows: orders.flatMap(([, rows]) => rows) },
    { table: 'shifts', rows: shifts.map(([parent]) => parent) },
    { table: 'shift_hours', rows: shifts.flatMap(([, rows]) => rows) },
    { table: 'school_visits', rows: visits.map(([parent]) => parent) },
    { table: 'visit_places', rows: visits.flatMap(([, rows]) => rows) },
  ];
}

function order(random: Random, at: number, { suppliers, people }: Known, number: Numbering): [Row, Row[]] {
  const id = random.id(at);
  const made = { created_at: madeAt(random, at), created_by: random.pick(people) };
  const rows = Array.from({ length: random.whole(1, 5) }, (_, i): Row => {
    const [item, price] = random.pick(items);
    const count = random.pick([1, 2, 4, 10, 12, 25]);
    return {
      id: random.id(at),
      number: number('SL', at),
      parent_id: id,
      position: i + 1,
      thing: item,
      pieces: count,
      price: price.toFixed(2),
      amount: (count * price).toFixed(2),
      ...made,
    };
  });
  return [
    {
      id,
      number: number('SR', at),
      supplier: random.pick(suppliers)['id'] ?? null,
      cost_centre: random.pick(['plant_records', 'plant_health', 'glasshouses', 'visitors']),
      needed_by: day(at + random.whole(4, 20) * DAY),
      reason: random.pick(['Spring potting', 'Worn out', 'The new bench', 'Stock is low']),
      total: rows.reduce((sum, row) => sum + Number(row['amount']), 0).toFixed(2),
      ...made,
    },
    rows,
  ];
}

function shift(
  random: Random,
  at: number,
  team: string,
  { volunteers, people }: Known,
  number: Numbering,
): [Row, Row[]] {
  const id = random.id(at);
  const made = { created_at: madeAt(random, at), created_by: random.pick(people) };
  const there = volunteers.filter((one) => one['team'] === codeOf(team) && random.chance(0.4)).slice(0, 8);
  const rows = (there.length === 0 ? volunteers.slice(0, 1) : there).map((who, i): Row => ({
    id: random.id(at),
    number: number('HR', at),
    parent_id: id,
    position: i + 1,
    who: who['id'] ?? null,
    hours: random.pick(['2.0', '2.5', '3.0', '4.0', '6.0']),
    work: random.pick(works),
    ...made,
  }));
  return [
    {
      id,
      number: number('SH', at),
      worked_on: day(at),
      team: codeOf(team),
      hours_in_all: rows.reduce((sum, row) => sum + Number(row['hours']), 0).toFixed(1),
      note: random.chance(0.2)
        ? random.pick(['Bring gloves', 'The north path is closed', 'Compost is full'])
        : null,
      ...made,
    },
    rows,
  ];
}

function visit(random: Random, at: number, { people, beds }: Known, number: Numbering): [Row, Row[]] {
  const school = random.pick(schools);
  const id = random.id(at);
  const made = { created_at: madeAt(random, at), created_by: random.pick(people) };
  const parent = {
    id,
    number: number('SV', at),
    school,
    contact: `${random.pick(first)} ${random.pick(last)}`,
    email: `office@${codeOf(school).replaceAll('_', '-')}.example`,
    phone: `+44 1632 97${String(random.whole(0, 9_999)).padStart(4, '0')}`,
    visits_on: day(at + 9 * DAY),
    arrives_at: random.pick(['09:30:00', '10:00:00', '13:15:00']),
    children: random.whole(8, 58),
    school_year: random.pick(['nursery', 'primary', 'primary', 'secondary', 'mixed']),
    needs: random.chance(0.4) ? [random.pick(['wheelchair_access', 'allergies', 'a_quiet_room'])] : null,
    teacher_stays: true,
    guide: random.chance(0.7) ? random.pick(people) : null,
    ...made,
  };
  const rows = openBeds(random, beds).map((bed, i): Row => ({
    id: random.id(at),
    number: number('VP', at),
    parent_id: id,
    position: i + 1,
    place: bed,
    ...made,
  }));
  return [parent, rows];
}

/** Up to three beds that visitors may see, each once. */
const openBeds = (random: Random, beds: readonly Row[]): string[] => {
  const open = beds.filter((one) => one['open_to_visitors'] === true);
  return [...new Set(Array.from({ length: random.whole(0, 3) }, () => String(random.pick(open)['id'])))];
};

export function orderAnswers(random: Random, now: Date, suppliers: readonly Row[]): Answers {
  const lines = Array.from({ length: random.whole(1, 4) }, () => {
    const [item, price] = random.pick(items);
    return {
      id: random.id(now.getTime()),
      cells: { qsritem: item, qsrcount: String(random.whole(1, 30)), qsrprice: price.toFixed(2) },
    };
  });
  const supplier = random.pick(suppliers.filter((one) => one['delivers'] === true));
  return {
    values: {
      qsrsupplier: String(supplier['id']),
      qsrcentre: random.pick(['plant_records', 'glasshouses', 'visitors']),
      qsrby: day(now.getTime() + random.whole(5, 15) * DAY),
      qsrwhy: random.pick(['Spring potting', 'The new bench in the Fern house', 'Worn out']),
    },
    rows: { qsrlines: lines },
    reasons: { qsrc2: 'They have it in stock.', qsrc3: 'The whole house at once.' },
  };
}

export const visitAnswers = (random: Random, now: Date, beds: readonly Row[]): Answers => ({
  values: {
    qsvschool: random.pick(schools),
    qsvcontact: `${random.pick(first)} ${random.pick(last)}`,
    qsvmail: 'office@school.example',
    qsvday: day(now.getTime() + random.whole(12, 120) * DAY),
    qsvtime: '10:00',
    qsvchildren: String(random.whole(12, 56)),
    qsvyear: random.pick(['primary', 'secondary']),
    qsvteacher: true,
  },
  rows: {
    qsvplaces: openBeds(random, beds).map((bed) => ({
      id: random.id(now.getTime()),
      cells: { qsvplace: bed },
    })),
  },
  reasons: {},
});
