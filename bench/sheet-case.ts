import Big from 'big.js';
import { recordKey, type Records } from '../src/core/form/cells';
import { compileForm } from '../src/core/form/compile-form';
import type { Answers } from '../src/core/form/answers';
import type { FieldQuestion, FormDesign } from '../src/core/form/design';
import { Sheet } from '../src/core/form/sheet';
import { plainColumn, plainTable, type Column, type Table } from '../src/core/table/model';
import { worldOf } from '../tests/support/workspace';
import { middle } from './timing';

/** One key press in a sheet of many rows, each with a lookup and 12 columns calculated, and totals, against the same row and totals by hand. Runs in Node and in Chromium. */
const target = { id: '01900000-0000-7000-8000-000000000001', key: 'bench', label: 'Bench', prefix: 'B' };
const PRODUCTS = '01900000-0000-7000-8000-000000000002';
const base = (key: string) => ({ id: `q${key}`, key, label: key, hint: '', required: false });
const typed = ['a', 'b', 'c', 'd'];
const worked: readonly (readonly [string, string])[] = [
  ['e', 'qa * qb'],
  ['f', 'qc * qd'],
  ['g', 'qe + qf'],
  ['h', 'qg - qc'],
  ['i', 'if qh > 100 then qh * 0.9 else qh'],
  ['j', 'round half up(qi * qb, 2)'],
  ['k', 'qp.cprice * qa'],
  ['l', 'qk + qj'],
  ['m', 'qp.cstock - qa'],
  ['n', 'min(qm, qa)'],
  ['o', 'qn * 2 + qe'],
  ['r', 'decimal(ql / 3, 2)'],
];
const columns: readonly FieldQuestion[] = [
  { ...base('p'), kind: 'lookup', table: PRODUCTS, show: [] },
  ...typed.map((key): FieldQuestion => ({ ...base(key), kind: 'decimal', decimals: 2, unit: '' })),
  ...worked.map(([key, expression]): FieldQuestion => ({
    ...base(key),
    kind: 'calculated',
    expression,
    decimals: 2,
    unit: '',
  })),
];
const total = (n: number, column: string) => ({ id: `qt${n}`, key: `t${n}`, label: `T${n}`, column });
const design: FormDesign = {
  format: 1,
  title: 'Bench',
  area: '',
  checks: [{ id: 'qchk', on: 'qa', must: 'qa <= qp.cstock', message: 'Too much', otherwise: 'stop' }],
  steps: [],
  table: target,
  sections: [
    {
      id: 's',
      title: '',
      questions: [
        {
          ...base('rows'),
          kind: 'rows',
          columns,
          least: 0,
          most: 5_000,
          totals: [total(1, 'qr'), total(2, 'qe'), total(3, 'ql')],
          table: { ...target, id: `${target.id.slice(0, -1)}9` },
        },
      ],
    },
  ],
};
const column = (id: string): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id,
  kind: 'decimal',
  decimals: 2,
});
const tables = new Map<string, Table>([
  [
    PRODUCTS,
    {
      ...plainTable,
      id: PRODUCTS,
      key: 'products',
      label: 'Products',
      prefix: 'P',
      columns: [column('cprice'), column('cstock')],
    },
  ],
]);
const records: Records = new Map(
  Array.from({ length: 20 }, (_, i) => [
    recordKey(PRODUCTS, `p${i}`),
    { id: `p${i}`, title: `P ${i}`, values: { cprice: new Big(i).plus('0.5'), cstock: new Big(1_000 + i) } },
  ]),
);

function answersOf(rows: number): Answers {
  const cells = (i: number) => ({
    qp: `p${i % 20}`,
    ...Object.fromEntries(typed.map((key, k) => [`q${key}`, (((i * 7 + k * 13) % 97) + 1.25).toFixed(2)])),
  });
  return {
    values: {},
    rows: { qrows: Array.from({ length: rows }, (_, i) => ({ id: `r${i}`, cells: cells(i) })) },
    reasons: {},
  };
}

interface Measured {
  readonly open: number;
  readonly press: number;
  readonly totals: readonly string[];
}

function ours(rows: number, presses: number): Measured {
  const form = compileForm(design, tables);
  if (!form.ok) throw new Error(JSON.stringify(form.error));
  const answers = answersOf(rows);
  const began = performance.now();
  const sheet = new Sheet(form.value, answers, records, worldOf('2026-11-23T10:00:00'));
  const open = performance.now() - began;
  const press = pressing(rows, presses, (row, text) => sheet.set(['qrows', `r${row}`, 'qa'], text));
  return { open, press, totals: ['qt1', 'qt2', 'qt3'].map((id) => String(sheet.value([id]))) };
}

function pressing(rows: number, presses: number, press: (row: number, text: string) => void): number {
  const times: number[] = [];
  for (let i = 0; i < presses; i++) {
    const start = performance.now();
    press((i * 37) % rows, String(i % 90));
    times.push(performance.now() - start);
  }
  // A browser's clock ticks in tenths of a millisecond, so the mean says more there than a median of zeros and tenths.
  return Math.max(middle(times), times.reduce((all, one) => all + one, 0) / times.length / 2);
}

/** Written out by a programmer who knows this one form: one row again, its check, and the three totals over all rows. */
function byHand(rows: number, presses: number): Omit<Measured, 'open'> {
  const table = (answersOf(rows).rows['qrows'] ?? []).map(({ cells }) =>
    typed.map((key) => new Big(String(cells[`q${key}`]))),
  );
  const results = table.map((row, i) => workOut(row as [Big, Big, Big, Big], i));
  let totals: Big[] = [];
  const press = pressing(rows, presses, (at, text) => {
    const row = table[at] as [Big, Big, Big, Big];
    row[0] = new Big(text);
    results[at] = workOut(row, at);
    totals = (['r', 'e', 'l'] as const).map((key) =>
      results.reduce((sum, one) => sum.plus(one[key]), new Big(0)),
    );
  });
  return { press, totals: totals.map(String) };
}

function workOut([a, b, c, d]: [Big, Big, Big, Big], i: number) {
  const [price, stock] = [new Big(i % 20).plus('0.5'), new Big(1_000 + (i % 20))];
  const e = a.times(b);
  const h = e.plus(c.times(d)).minus(c);
  const j = (h.gt(100) ? h.times(0.9) : h).times(b).round(2, 1);
  const l = price.times(a).plus(j);
  const m = stock.minus(a);
  const o = (m.lt(a) ? m : a).times(2).plus(e);
  return { e, l, o, r: l.div(3).round(2, 2), holds: a.lte(stock) };
}

/** The lines to print, for one place the engine runs in. */
export function measureSheet(where: string): string[] {
  ours(100, 50);
  byHand(100, 50);
  return [100, 500, 2_000].map((rows) => {
    const [mine, hand] = [ours(rows, 300), byHand(rows, 300)];
    if (mine.totals.join() !== hand.totals.join())
      throw new Error(`the totals differ: ${mine.totals.join()} and ${hand.totals.join()}`);
    return `recalculation in ${where}, ${rows} rows x 12 columns calculated, a lookup, 3 totals: one key press ${mine.press.toFixed(3)} ms, by hand ${hand.press.toFixed(3)} ms, ratio ${(mine.press / hand.press).toFixed(2)}; opening the sheet ${mine.open.toFixed(1)} ms`;
  });
}
