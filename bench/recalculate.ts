import Big from 'big.js';
import { compileForm } from '../src/core/form/compile-form';
import type { Answers } from '../src/core/form/answers';
import type { FieldQuestion, FormDesign } from '../src/core/form/design';
import { worldAt } from '../src/core/workspace';
import { Sheet } from '../src/core/form/sheet';

/** One key press in a sheet of 500 rows with 12 columns (6 typed, 6 worked out) and totals, against the same by hand. */
const target = { id: '01900000-0000-7000-8000-000000000001', key: 'bench', label: 'Bench', prefix: 'B' };
const typed = ['a', 'b', 'c', 'd', 'e', 'f'];
const worked: [string, string][] = [['g', 'qa * qb'], ['h', 'qc * qd'], ['i', 'qg + qh'], ['j', 'qi - qe'], ['k', 'if qj > 100 then qj * 0.9 else qj'], ['l', 'round half up(qk * qf, 2)']];
const base = (key: string) => ({ id: `q${key}`, key, label: key, hint: '', required: false });
const columns: FieldQuestion[] = [...typed.map((key): FieldQuestion => ({ ...base(key), kind: 'decimal', decimals: 2, unit: '' })), ...worked.map(([key, expression]): FieldQuestion => ({ ...base(key), kind: 'calculated', expression, decimals: 2, unit: '' }))];
const design: FormDesign = {
  format: 1, title: 'Bench', area: '', checks: [], steps: [], table: target,
  sections: [{ id: 's', title: '', questions: [{ ...base('rows'), kind: 'rows', columns, least: 0, most: 5_000, totals: [{ id: 'qtotal', key: 'total', label: 'Total', column: 'ql' }], table: target }] }],
};

const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

function answersOf(rows: number): Answers {
  const cells = (i: number) => Object.fromEntries(typed.map((key, k) => [`q${key}`, ((i * 7 + k * 13) % 97 + 1.25).toFixed(2)]));
  return { values: {}, rows: { qrows: Array.from({ length: rows }, (_, i) => ({ id: `r${i}`, cells: cells(i) })) }, reasons: {} };
}

function ours(rows: number, presses: number): { open: number; press: number; total: string } {
  const form = compileForm(design, new Map());
  if (!form.ok) throw new Error(JSON.stringify(form.error));
  const answers = answersOf(rows);
  const began = performance.now();
  const sheet = new Sheet(form.value, answers, new Map(), worldAt('2026-11-23T10:00:00'));
  const open = performance.now() - began;
  const times: number[] = [];
  for (let i = 0; i < presses; i++) {
    const start = performance.now();
    sheet.set(['qrows', `r${(i * 37) % rows}`, 'qa'], String(i % 90));
    times.push(performance.now() - start);
  }
  return { open, press: median(times), total: String(sheet.value(['qtotal'])) };
}

/** The same row and total, written out by a programmer who knows this one form: one row again, and the total over all. */
function byHand(rows: number, presses: number): { press: number; total: string } {
  const table = (answersOf(rows).rows['qrows'] ?? []).map(({ cells }) => typed.map((key) => new Big(String(cells[`q${key}`]))));
  const workOut = ([a, b, c, d, e, f]: Big[]): Big => {
    const j = (a as Big).times(b as Big).plus((c as Big).times(d as Big)).minus(e as Big);
    return (j.gt(100) ? j.times(0.9) : j).times(f as Big).round(2, 1);
  };
  const results = table.map(workOut);
  let total = new Big(0);
  const times: number[] = [];
  for (let i = 0; i < presses; i++) {
    const start = performance.now();
    const at = (i * 37) % rows;
    const row = table[at] as Big[];
    row[0] = new Big(String(i % 90));
    results[at] = workOut(row);
    total = results.reduce((sum, one) => sum.plus(one), new Big(0));
    times.push(performance.now() - start);
  }
  return { press: median(times), total: total.toString() };
}

ours(100, 50);
byHand(100, 50);
for (const rows of [100, 500, 2_000]) {
  const [mine, hand] = [ours(rows, 300), byHand(rows, 300)];
  if (mine.total !== hand.total) throw new Error(`the totals differ: ${mine.total} and ${hand.total}`);
  console.log(`recalculation, ${rows} rows x 12 columns: one key press ${mine.press.toFixed(3)} ms median, by hand ${hand.press.toFixed(3)} ms, ratio ${(mine.press / hand.press).toFixed(2)}; opening the sheet ${mine.open.toFixed(1)} ms`);
}
