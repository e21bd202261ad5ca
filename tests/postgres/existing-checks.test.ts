import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { tableId } from '../../demo/tables';
import { worldOf } from '../support/workspace';
import { noAnswers, type Answers } from '../../src/core/form/answers';
import { compileForm } from '../../src/core/form/compile-form';
import type { ExistingCheck } from '../../src/core/check/check';
import type { FormDesign } from '../../src/core/form/design';
import { ok, type Result } from '../../src/core/kernel/result';
import type { Refusal } from '../../src/core/kernel/refusal';
import { checkImpact, type Impact } from '../../src/data/runtime/tables/check-impact';
import { catalogueNow } from '../../src/data/catalogue';
import { insertForm } from '../../src/data/system/forms';
import { asOwner } from '../../src/data/transaction';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { as, draft, must, newId, plantGarden, refusal, type Garden, useWorld } from '../support/world';

/** Bookings of beds: no two at a time, at most two in a month, codes once, and each product once among all rows of a day. */
const asked = (id: string) => ({ id, key: id, label: id, hint: '', required: false });
const target = (n: number, key: string) => ({
  id: `01900000-0000-7000-9000-0000000000c${n}`,
  key,
  label: key,
  prefix: `B${'AB'[n] ?? ''}`,
});
const rules: ExistingCheck[] = [
  { id: 'xcode', on: 'qcode', message: 'This code is taken.', same: ['qcode'], rule: { t: 'unique' } },
  {
    id: 'xfree',
    on: 'qfrom',
    message: 'The bed is booked then.',
    same: ['qbed'],
    rule: { t: 'no-overlap', from: 'qfrom', to: 'qto' },
  },
  {
    id: 'xmonth',
    on: 'qfrom',
    message: 'Two a month are enough.',
    same: ['qbed'],
    rule: { t: 'at-most', most: 2, per: 'month', date: 'qfrom' },
  },
  { id: 'xtray', on: 'qtray', message: 'This tray is out already.', same: ['qtray'], rule: { t: 'unique' } },
];
const design = (steps: FormDesign['steps'], n: number): FormDesign => ({
  format: 1,
  title: `Booking ${n}`,
  area: '',
  checks: [
    { id: 'qchk', on: 'qto', must: 'qto >= qfrom', message: 'Ends before it begins.', otherwise: 'stop' },
  ],
  existing: rules,
  steps,
  table: target(n * 2, `bookings_${n}`),
  sections: [
    {
      id: 's1',
      title: '',
      questions: [
        { ...asked('qbed'), kind: 'lookup', table: tableId(1), show: [] },
        { ...asked('qfrom'), kind: 'date' },
        { ...asked('qto'), kind: 'date' },
        { ...asked('qcode'), kind: 'text', long: false },
        {
          ...asked('qrows'),
          kind: 'rows',
          least: 0,
          most: 20,
          totals: [],
          table: target(n * 2 + 1, `booking_rows_${n}`),
          columns: [
            { ...asked('qtray'), kind: 'text', long: false },
            { ...asked('qmany'), kind: 'whole', unit: '' },
          ],
        },
      ],
    },
  ],
});

const world = useWorld();
let garden: Garden;
const forms = { direct: newId(), stepped: newId() };
const ines = personNamed('Ines');

beforeAll(async () => {
  garden = await plantGarden(world);
  for (const [id, key, made] of [
    [forms.direct, 'booking', design([], 0)],
    [
      forms.stepped,
      'booking_stepped',
      design([{ id: 'st1', label: 'Lead', people: [personNamed('Tomasz').id] }], 1),
    ],
  ] as const) {
    await must(
      asOwner({ person: ines.id }, async (tx) =>
        ok(await insertForm(tx, { id, key, design: made, ownerId: ines.id, editedBy: ines.id })),
      ),
    );
    await must(releaseForm(as('Ines'), id, { version: 1, fill: 'everybody' }));
  }
});

const booking = (from: string, to: string, code: string, trays: string[] = []): Answers => ({
  ...noAnswers,
  values: { qbed: garden.bed, qfrom: from, qto: to, qcode: code },
  rows: { qrows: trays.map((tray, i) => ({ id: `t${i}`, cells: { qtray: tray, qmany: String(i + 1) } })) },
});
const send = async (answers: Answers, form = forms.direct, who = 'Maren') => {
  const { id, version } = await draft(who, form, answers);
  return { id, result: await sendSubmission(as(who), id, { key: newId(), version }) };
};
const words = async (answers: Answers, form = forms.direct): Promise<unknown> => {
  const { result } = await send(answers, form);
  const said = await refusal(Promise.resolve(result as Result<unknown, Refusal>));
  return said.kind === 'invalid'
    ? said.issues.map(({ path, facts }) => [path.join('/'), facts['message']])
    : said;
};

describe('what the records there are do not allow', () => {
  it('is told at its line, the sheet’s or the row’s, and nothing is kept', async () => {
    expect((await send(booking('2026-12-01', '2026-12-05', 'A', ['T1', 'T2']))).result.ok).toBe(true);
    expect(await words(booking('2026-12-05', '2026-12-06', 'B'))).toEqual([
      ['qfrom', 'The bed is booked then.'],
    ]);
    expect(await words(booking('2027-01-01', '2027-01-02', 'A'))).toEqual([['qcode', 'This code is taken.']]);
    expect(await words(booking('2027-01-01', '2027-01-02', 'C', ['T9', 'T2']))).toEqual([
      ['qrows/t1/qtray', 'This tray is out already.'],
    ]);
    expect(await words(booking('2027-01-01', '2027-01-02', 'C', ['T7', 'T7']))).toEqual([
      ['qrows/t0/qtray', 'This tray is out already.'],
    ]);
    expect(await world.sql('SELECT count(*)::int AS n FROM records.bookings_0')).toEqual([{ n: 1 }]);
  });

  it('counts by the calendar, and an open end as not come yet', async () => {
    expect((await send(booking('2026-12-10', '2026-12-12', 'D'))).result.ok).toBe(true);
    expect(await words(booking('2026-12-20', '2026-12-21', 'E'))).toEqual([
      ['qfrom', 'Two a month are enough.'],
    ]);
    expect((await send(booking('2027-03-01', '', 'F'))).result.ok).toBe(true);
    expect(await words(booking('2030-01-01', '2030-01-02', 'G'))).toEqual([
      ['qfrom', 'The bed is booked then.'],
    ]);
    expect((await send(booking('2027-02-01', '2027-02-28', ''))).result.ok).toBe(true);
    expect((await send(booking('2027-01-03', '2027-01-04', ''))).result.ok).toBe(true);
  });

  it('lets one of many at once through', async () => {
    const tries = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        send(booking('2031-05-01', '2031-05-03', `R${i}`), forms.direct, i % 2 === 0 ? 'Maren' : 'Ada'),
      ),
    );
    expect(tries.filter(({ result }) => result.ok)).toHaveLength(0);
    await world.sql(`UPDATE records.bookings_0 SET qto = '2027-03-02' WHERE qcode = 'F'`);
    const again = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        send(
          booking('2031-05-01', '2031-05-03', `S${i}`, [`X${i}`]),
          forms.direct,
          i % 2 === 0 ? 'Maren' : 'Ada',
        ),
      ),
    );
    expect(again.filter(({ result }) => result.ok)).toHaveLength(1);
    expect(
      await world.sql(`SELECT count(*)::int AS n FROM records.bookings_0 WHERE qfrom = '2031-05-01'`),
    ).toEqual([{ n: 1 }]);
  });
});

describe('with steps', () => {
  it('the sender hears of it at once, and the approver when it changed meanwhile', async () => {
    const first = await send(booking('2026-12-01', '2026-12-05', 'A', ['T1']), forms.stepped);
    const second = await send(booking('2026-12-03', '2026-12-04', 'B'), forms.stepped);
    expect([first.result.ok, second.result.ok]).toEqual([true, true]);
    expect(await world.sql('SELECT count(*)::int AS n FROM records.bookings_1')).toEqual([{ n: 0 }]);
    const approve = (id: string) =>
      decideSubmission(as('Tomasz'), id, { key: newId(), version: 2, decision: 'approve', word: '' });
    expect((await must(approve(first.id))).state).toBe('kept');
    expect(await refusal(approve(second.id))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'check-stops', path: ['qfrom'] }],
    });
    expect(await world.sql('SELECT state FROM slate.submission WHERE id = $1', [second.id])).toEqual([
      { state: 'waiting' },
    ]);
    expect(await words(booking('2026-12-02', '2026-12-02', 'C'), forms.stepped)).toEqual([
      ['qfrom', 'The bed is booked then.'],
    ]);
  });
});

describe('approved at the same moment', () => {
  it('one of many is kept; here no number is given that would make them wait for one another', async () => {
    const waiting = await Promise.all(
      Array.from({ length: 8 }, (_, i) => send(booking('2033-05-01', '2033-05-03', `P${i}`), forms.stepped)),
    );
    expect(waiting.every(({ result }) => result.ok)).toBe(true);
    const decided = await Promise.all(
      waiting.map(({ id }) =>
        decideSubmission(as('Tomasz'), id, { key: newId(), version: 2, decision: 'approve', word: '' }),
      ),
    );
    expect(decided.filter(({ ok: kept }) => kept)).toHaveLength(1);
    expect(
      await world.sql(`SELECT count(*)::int AS n FROM records.bookings_1 WHERE qfrom = '2033-05-01'`),
    ).toEqual([{ n: 1 }]);
  });
});

describe('a new check against the records there are', () => {
  const impact = async (must_: string, on: string, form = design([], 0)): Promise<Impact> =>
    must(
      asOwner({ person: ines.id }, async (tx) => {
        const { tables } = await catalogueNow(tx);
        const compiled = compileForm(
          { ...form, checks: [{ id: 'cnew', on, must: must_, message: 'm', otherwise: 'stop' }] },
          tables,
        );
        if (!compiled.ok) throw new Error(JSON.stringify(compiled.error));
        const formula = compiled.value.formulas.find(({ id }) => id === 'cnew');
        if (formula?.tree == null) throw new Error('no tree');
        const found = await checkImpact(tx, form, tables, {
          condition: formula.tree,
          group: formula.group,
          world: worldOf('2026-11-23T12:00:00'),
        });
        if (!found.ok) throw new Error(JSON.stringify(found.error));
        return ok(found.value);
      }),
    );

  it('counts what would break it, with the first of them, over looked-up records, rows and single rows', async () => {
    const [{ n } = { n: 0 }] = await world.sql('SELECT count(*)::int AS n FROM records.bookings_0');
    expect(await impact('qto >= qfrom', 'qto')).toEqual({ records: n, broken: 0, examples: [] });
    expect(await impact('qcode = "A"', 'qcode')).toMatchObject({ records: n, broken: Number(n) - 1 });
    expect((await impact('qbed.cbedarea > 100', 'qbed')).broken).toBe(n);
    expect(await impact('count(qrows) < 2', 'qfrom')).toMatchObject({
      broken: 1,
      examples: [expect.stringMatching(/^BA-\d{4}-0001$/)],
    });
    expect(await impact('sum(qrows.qmany) <= 2 or count(qrows) = 0', 'qfrom')).toMatchObject({ broken: 1 });
    expect(await impact('qmany < 2 and qfrom > date("2026-01-01")', 'qmany')).toMatchObject({
      records: 3,
      broken: 1,
    });
  });

  it('knows who sent each, also for its rows', async () => {
    const [{ n } = { n: 0 }] = await world.sql('SELECT count(*)::int AS n FROM records.bookings_0');
    const [{ by } = { by: 0 }] = await world.sql(
      `SELECT count(*)::int AS by FROM records.bookings_0 b JOIN slate.person p ON p.id = b.created_by WHERE p.name = 'Maren Solheim'`,
    );
    expect(Number(by)).toBeGreaterThan(0);
    expect(await impact('sender.name != "Maren Solheim"', 'qto')).toMatchObject({ records: n, broken: by });
    expect(
      await impact('sender.email = "maren@nowhere.example" and sender.place = null', 'qmany'),
    ).toMatchObject({ records: 3, broken: 3 });
  });
});
