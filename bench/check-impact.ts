import { sql } from 'drizzle-orm';
import { personNamed } from '../demo/people';
import { tableId } from '../demo/tables';
import { compileForm } from '../src/core/form/compile-form';
import type { FormDesign } from '../src/core/form/design';
import { ok } from '../src/core/kernel/result';
import { tablesOf } from '../src/core/storage/tables-of';
import { planTables } from '../src/core/table/plan';
import { worldOf } from '../tests/support/workspace';
import { closeConnections } from '../src/data/connect';
import { checkImpact } from '../src/data/runtime/tables/check-impact';
import { applyChanges } from '../src/data/runtime/tables/tables';
import { catalogueNow } from '../src/data/catalogue';
import { asOwner, asPerson } from '../src/data/transaction';
import { middle } from './timing';

/** What a new check would break among the records there are, as the application asks it, against the same question written by hand. */
const SIZES = [10_000, 100_000, 1_000_000];
const ROUNDS = 5;
const ines = personNamed('Ines');
const asked = (id: string) => ({ id, key: id, label: id, hint: '', required: false });
const target = (n: number, key: string) => ({
  id: `01900000-0000-7000-9000-0000000000d${n}`,
  key,
  label: key,
  prefix: 'IM',
});
const design: FormDesign = {
  format: 1,
  title: 'Impact',
  area: '',
  checks: [],
  steps: [],
  table: target(1, 'impact'),
  sections: [
    {
      id: 's',
      title: '',
      questions: [
        { ...asked('qproduct'), kind: 'lookup', table: tableId(3), show: [] },
        { ...asked('qrate'), kind: 'decimal', decimals: 1, unit: '' },
        { ...asked('qarea'), kind: 'decimal', decimals: 2, unit: '' },
        { ...asked('qon'), kind: 'date' },
        {
          ...asked('qlines'),
          kind: 'rows',
          least: 0,
          most: 50,
          totals: [],
          table: target(2, 'impact_lines'),
          columns: [{ ...asked('qamount'), kind: 'decimal', decimals: 2, unit: '' }],
        },
      ],
    },
  ],
};

const live = 'FROM records.impact r';
const checks: readonly { name: string; must: string; byHand: string }[] = [
  {
    name: 'across answers',
    must: 'qrate <= 80 and qon <= today()',
    byHand: `SELECT count(*), count(*) FILTER (WHERE NOT (qrate <= 80 AND qon <= DATE '2026-11-23')) ${live} WHERE r.removed_at IS NULL`,
  },
  {
    name: 'a product of answers',
    must: 'qrate * qarea <= 4000',
    byHand: `SELECT count(*), count(*) FILTER (WHERE NOT (qrate * qarea <= 4000)) ${live} WHERE r.removed_at IS NULL`,
  },
  {
    name: 'against a looked-up record',
    must: 'qrate <= qproduct.cpromax',
    byHand: `SELECT count(*), count(*) FILTER (WHERE NOT (r.qrate <= p.max_rate)) ${live} LEFT JOIN records.products p ON p.id = r.qproduct WHERE r.removed_at IS NULL`,
  },
  {
    name: 'over its rows',
    must: 'sum(qlines.qamount) <= 150',
    byHand: `SELECT count(*), count(*) FILTER (WHERE NOT (l.s <= 150)) ${live} LEFT JOIN (SELECT parent_id, CASE WHEN count(*) = count(qamount) THEN sum(qamount) END AS s FROM records.impact_lines WHERE removed_at IS NULL GROUP BY parent_id) l ON l.parent_id = r.id WHERE r.removed_at IS NULL`,
  },
];

await asOwner({ person: ines.id }, async (tx) => {
  const there = (await catalogueNow(tx)).tables;
  const plan = planTables([...there.values()], tablesOf(design));
  if (!plan.ok) throw new Error(JSON.stringify(plan.error));
  await applyChanges(tx, there, plan.value, ['owner', 'colleague']);
  // The trail of a million made-up rows would only take time; nothing measured here writes.
  for (const table of ['impact', 'impact_lines'])
    await tx.execute(sql.raw(`ALTER TABLE records.${table} DISABLE TRIGGER USER`));
  return ok(null);
});
let there = 0;
for (const size of SIZES) {
  await fill(there, size);
  there = size;
  for (const check of checks) {
    const { ours, hand, broken } = await measure(check);
    console.log(
      `a new check against ${size} records, ${check.name}, ${check.must}: ${ours.toFixed(0)} ms, by hand ${hand.toFixed(0)} ms, ratio ${(ours / hand).toFixed(2)}; ${broken} would break it`,
    );
  }
}
await asOwner(
  { person: ines.id },
  async (tx) => (
    await tx.execute(sql.raw('DROP TABLE records.impact, records.impact_lines CASCADE')),
    ok(null)
  ),
);
await closeConnections();

async function fill(from: number, to: number): Promise<void> {
  await asOwner({ person: ines.id }, async (tx) => {
    await tx.execute(
      sql.raw(`WITH p AS (SELECT array_agg(id) AS ids FROM records.products) INSERT INTO records.impact (id, number, qproduct, qrate, qarea, qon)
      SELECT gen_random_uuid(), 'IM-' || n, ids[1 + n % array_length(ids, 1)], (n * 7 % 900) / 10.0, (n * 13 % 9000) / 100.0, DATE '2023-01-01' + (n % 1400) FROM p, generate_series(${from + 1}, ${to}) n`),
    );
    await tx.execute(
      sql.raw(
        `INSERT INTO records.impact_lines (id, number, parent_id, position, qamount) SELECT gen_random_uuid(), r.number || '-' || k, r.id, k, (k * 31 % 97) FROM records.impact r, generate_series(1, 2) k WHERE substr(r.number, 4)::int > ${from}`,
      ),
    );
    return ok(null);
  });
  await asOwner(
    { person: ines.id },
    async (tx) => (
      await tx.execute(sql.raw('ANALYZE records.impact')),
      await tx.execute(sql.raw('ANALYZE records.impact_lines')),
      ok(null)
    ),
  );
}

async function measure({
  must,
  byHand,
}: (typeof checks)[number]): Promise<{ ours: number; hand: number; broken: number }> {
  const found = await asPerson({ person: ines.id }, async (tx) => {
    const { tables } = await catalogueNow(tx);
    const form = compileForm(
      { ...design, checks: [{ id: 'cnew', on: 'qrate', must, message: 'm', otherwise: 'stop' }] },
      tables,
    );
    const tree = form.ok ? form.value.formulas.find(({ id }) => id === 'cnew')?.tree : null;
    if (tree == null) throw new Error(`${must} was not read`);
    const [ours, hand]: [number[], number[]] = [[], []];
    let broken = 0;
    for (let i = 0; i <= ROUNDS; i++) {
      const mine = await timed(async () => {
        const impact = await checkImpact(tx, design, tables, {
          condition: tree,
          group: null,
          world: worldOf('2026-11-23T10:00:00'),
        });
        if (!impact.ok) throw new Error(JSON.stringify(impact.error));
        ({ broken } = impact.value);
      });
      const theirs = await timed(() => tx.execute(sql.raw(byHand)));
      // The first round warms the cache for both.
      if (i > 0) [ours, hand].forEach((list, k) => list.push(k === 0 ? mine : theirs));
    }
    return ok({ ours: middle(ours), hand: middle(hand), broken });
  });
  if (!found.ok) throw new Error(JSON.stringify(found.error));
  return found.value;
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}
