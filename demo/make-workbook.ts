import ExcelJS from 'exceljs';
import { bedRows, productRows, taxonRows, type Row } from './generate';
import { seeded } from './random';

/**
 * Writes `demo/quillmere-sheets.xlsx`: the six sheets the garden kept before it had tables, as untidy as such sheets are. Mixed dates, codes
 * with stray spaces, suppliers typed out again and again, plants and products in numbered columns. From a fixed seed.
 */
const random = seeded(2019);
const book = new ExcelJS.Workbook();
book.created = book.modified = new Date(Date.UTC(2026, 0, 5));
const [beds, taxa, products] = [bedRows(random), taxonRows(random).slice(0, 120), productRows(random)];

/** One spelling in nine is off: a space too many, capitals, none. */
function untidy(text: string): string {
  if (!random.chance(0.11)) return text;
  return random.pick([
    ` ${text}`,
    `${text} `,
    text.toUpperCase(),
    text.replace(' ', '  '),
    text.toLowerCase(),
  ]);
}
const text = (row: Row, key: string): string => String(row[key] ?? '');
const day = (i: number): Date => new Date(Date.UTC(2023, 1, 1) + i * 86_400_000);
const pad = (n: number): string => String(n).padStart(2, '0');
const strokes = (at: Date): string =>
  `${pad(at.getUTCDate())}/${pad(at.getUTCMonth() + 1)}/${at.getUTCFullYear()}`;
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A day as four people in turn would write it. */
function mixedDay(i: number): Date | string {
  const at = day(i);
  return random.pick([
    at,
    strokes(at),
    `${at.getUTCDate()} ${months[at.getUTCMonth()]} ${at.getUTCFullYear()}`,
    `${pad(at.getUTCDate())}.${pad(at.getUTCMonth() + 1)}.${at.getUTCFullYear()}`,
  ]);
}

function sheet(name: string, rows: readonly (readonly (string | number | boolean | Date | null)[])[]): void {
  const made = book.addWorksheet(name);
  for (const row of rows) {
    const added = made.addRow([...row]);
    row.forEach((cell, i) => {
      if (cell instanceof Date) added.getCell(i + 1).numFmt = 'yyyy-mm-dd';
    });
  }
}

sheet('Beds', [
  ['Beds of the garden, spring list'],
  [],
  ['Code', 'Name', 'Section', 'Area (m²)', 'Open to visitors'],
  ...beds.map((bed) => [
    untidy(text(bed, 'code')).trimEnd(),
    text(bed, 'name'),
    text(bed, 'section'),
    Number(bed['area']),
    bed['open_to_visitors'] === true ? 'yes' : 'no',
  ]),
]);

sheet('Plant names', [
  ['Name', 'Family', 'Permit needed'],
  ...taxa.map((taxon) => [
    text(taxon, 'name'),
    text(taxon, 'family'),
    taxon['permit_needed'] === true ? 'x' : null,
  ]),
]);

const suppliers = [
  ['Marlow & Fenn', '+44 1632 960 114', 'Eastmere'],
  ['Greyshaw Garden Stores', '+44 1632 960 187', 'Tarnford'],
  ['Peat & Loam Traders', '+44 1632 960 233', 'Eastmere'],
  ['Alderby Chemists', '+44 1632 960 251', 'Oxley Moor'],
  ['Harrow Lane Supplies', '+44 1632 960 302', 'Tarnford'],
] as const;
sheet('Deliveries', [
  ['Product', 'Licence', 'Delivered', 'Quantity', 'Price', 'Supplier', 'Phone', 'Town'],
  ...Array.from({ length: 160 }, (_, i) => {
    const product = random.pick(products);
    const [supplier, phone, town] = random.pick(suppliers);
    return [
      untidy(text(product, 'name')),
      text(product, 'licence'),
      mixedDay(i * 6),
      random.whole(1, 24) * 100,
      `£${(random.whole(450, 9_900) / 100).toFixed(2)}`,
      untidy(supplier),
      phone,
      town,
    ];
  }),
]);

sheet('Products', [
  ['Name', 'Licence', 'Active substance', 'Top rate (ml/m²)', 'In stock (ml)', 'Restricted'],
  ...products.map((product) => [
    text(product, 'name'),
    text(product, 'licence'),
    text(product, 'active'),
    Number(product['max_rate']),
    Number(product['in_stock']),
    product['restricted'] === true ? 'Yes' : 'No',
  ]),
]);

sheet('Treatments', [
  [
    'No',
    'Bed',
    'Planned on',
    'Path closed',
    'Seen',
    'Product 1',
    'Rate 1',
    'Product 2',
    'Rate 2',
    'Product 3',
    'Rate 3',
  ],
  ...Array.from({ length: 220 }, (_, i) => {
    const lines = Array.from({ length: random.whole(1, 3) }, () => random.pick(products)).flatMap(
      (product) => [untidy(text(product, 'name')), Math.round(Number(product['max_rate']) * 0.8 * 2) / 2],
    );
    return [
      `T-${String(1001 + i)}`,
      untidy(text(random.pick(beds), 'code')),
      strokes(day(i * 4)),
      random.chance(0.3) ? 'Y' : 'N',
      random.chance(0.4)
        ? random.pick(['Scale on the undersides', 'Mildew near the door', 'Aphids on new growth'])
        : null,
      ...lines,
    ];
  }),
]);

sheet('Inspections', [
  ['Bed', 'Inspected on', 'Condition', 'Plants lost', 'Pests seen', 'Inspected by', 'E-mail'],
  ...Array.from({ length: 240 }, (_, i) => {
    const [name, mail] = random.pick([
      ['Maren Solheim', 'maren.solheim@quillmere.example'],
      ['Tomasz Bielak', 'tomasz.bielak@quillmere.example'],
      ['Pell Adeyemi', 'pell.adeyemi@quillmere.example'],
    ] as const);
    return [
      untidy(text(random.pick(beds), 'code')),
      mixedDay(i * 4 + 1),
      untidy(random.pick(['thriving', 'fair', 'poor', 'failing'])),
      random.chance(0.7) ? 0 : random.whole(1, 9),
      random.chance(0.2),
      name,
      mail,
    ];
  }),
]);

await book.xlsx.writeFile(new URL('quillmere-sheets.xlsx', import.meta.url).pathname);
