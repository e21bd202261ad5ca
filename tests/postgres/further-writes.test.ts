import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { tableId } from '../../demo/tables';
import type { FieldQuestion, FormDesign, RowsQuestion } from '../../src/core/form/design';
import type { FurtherWrite } from '../../src/core/storage/further-write';
import { ok } from '../../src/core/kernel/result';
import { insertForm } from '../../src/data/system/forms';
import { asOwner } from '../../src/data/transaction';
import { allowForm } from '../../src/use-cases/forms/allow-form';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { rehearseForm } from '../../src/use-cases/forms/rehearse-form';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { as, draft, must, newId, plantGarden, refusal, sent, useWorld, type Garden } from '../support/world';

const world = useWorld();
let garden: Garden;
const FORM = '01900000-0000-7000-a000-0000000000f1';
const products = tableId(3);

const asked = (id: string, key: string) => ({ id, key, label: key, hint: '', required: true });
const product: FieldQuestion = {
  ...asked('qspproduct', 'product'),
  kind: 'lookup',
  table: products,
  show: [],
};
const amount: FieldQuestion = { ...asked('qspamount', 'amount'), kind: 'whole', unit: 'ml' };
const target = (n: number, key: string) => ({ id: tableId(n), key, label: key, prefix: `S${n}` });
const lines: RowsQuestion = {
  ...asked('qsplines', 'lines'),
  kind: 'rows',
  columns: [product, amount],
  least: 1,
  most: 20,
  totals: [],
  table: target(82, 'spray_lines'),
};
/** A bed is sprayed: what was used is taken from the stock, line by line. */
const sprays: FormDesign = {
  format: 1,
  title: 'Spray',
  area: '',
  table: target(81, 'sprays'),
  sections: [
    {
      id: 'sspray',
      title: '',
      questions: [
        { ...asked('qspbed', 'bed'), kind: 'lookup', table: tableId(1), show: [] },
        { ...asked('qspclosed', 'closed'), kind: 'yes-no' },
        lines,
      ],
    },
  ],
  checks: [],
  steps: [],
  further: [
    {
      t: 'change',
      id: 'fstock',
      each: 'qsplines',
      lookup: 'qspproduct',
      sets: [{ column: 'cprostock', how: 'lower', expression: 'qspamount' }],
    },
    {
      t: 'change',
      id: 'fopen',
      lookup: 'qspbed',
      when: 'qspclosed = true',
      sets: [{ column: 'cbedopen', how: 'set', expression: 'false' }],
    },
    {
      t: 'add',
      id: 'ftaxon',
      table: tableId(2),
      when: 'count(qsplines) > 2',
      sets: [
        { column: 'ctaxname', how: 'set', expression: '"Sprayed thrice"' },
        { column: 'ctaxfamily', how: 'set', expression: 'sender.name' },
        { column: 'ctaxprotected', how: 'set', expression: 'qspclosed' },
      ],
    },
  ],
};

const line = (of: string, many: number | string, id = newId()) => ({
  id,
  cells: { qspproduct: of, qspamount: String(many) },
});
const answers = (rows: readonly ReturnType<typeof line>[], closed = false) => ({
  values: { qspbed: garden.bed, qspclosed: closed },
  rows: { qsplines: rows },
  reasons: {},
});
const stock = async (id: string): Promise<number> =>
  Number((await world.sql('SELECT in_stock FROM records.products WHERE id = $1', [id]))[0]?.['in_stock']);
const setStock = (id: string, many: number) =>
  world.sql('UPDATE records.products SET in_stock = $2 WHERE id = $1', [id, many]);
const send = async (name: string, given: ReturnType<typeof answers>) => {
  const one = await draft(name, FORM, given);
  return sendSubmission(as(name), one.id, { key: newId(), version: one.version });
};

async function edited(change: (design: FormDesign) => FormDesign): Promise<number> {
  const [row] = await world.sql('SELECT version, design FROM slate.form WHERE id = $1', [FORM]);
  const design = change(row?.['design'] as FormDesign);
  return (await must(editForm(as('Ines'), FORM, { version: Number(row?.['version']), design }))).version;
}
const withFurther =
  (change: (writes: readonly FurtherWrite[]) => FurtherWrite[]) => (design: FormDesign) => ({
    ...design,
    further: change(design.further ?? []),
  });

beforeAll(async () => {
  garden = await plantGarden(world);
  const ines = personNamed('Ines').id;
  await must(
    asOwner({ person: ines }, async (tx) =>
      ok(await insertForm(tx, { id: FORM, key: 'spray', design: sprays, ownerId: ines, editedBy: ines })),
    ),
  );
});

describe('what a form writes beside its own record', () => {
  it('is allowed by those who design the tables, outright', async () => {
    const refused = await refusal(releaseForm(as('Ines'), FORM, { version: 1, fill: 'everybody' }));
    expect(refused).toMatchObject({
      kind: 'invalid',
      issues: [
        { code: 'table-written-beside', path: ['store', products], facts: { changes: true, adds: false } },
        { code: 'table-written-beside', path: ['store', tableId(1)] },
        { code: 'table-written-beside', path: ['store', tableId(2)], facts: { adds: true } },
      ],
    });
    const allow = [products, tableId(1), tableId(2)];
    await must(releaseForm(as('Ines'), FORM, { version: 1, fill: 'everybody', allow }));
    // From then on the next release need not ask again for the same.
    const version = await edited((design) => ({ ...design, title: 'Spraying' }));
    await must(releaseForm(as('Ines'), FORM, { version }));
  });

  it('is written with it, as its sender, who may not change those tables otherwise', async () => {
    const one = await sent('Maren', FORM, answers([line(garden.soap, 300), line(garden.soap, 200)], true));
    expect(await stock(garden.soap)).toBe(3500);
    const history = await world.sql(
      'SELECT h.change, h.submission_id, p.name FROM slate.history h JOIN slate.person p ON p.id = h.by_id WHERE h.record_id = $1 AND h.version = 2',
      [garden.soap],
    );
    expect(history).toEqual([{ change: 'changed', submission_id: one.id, name: 'Maren Solheim' }]);
    expect(await world.sql('SELECT open_to_visitors FROM records.beds WHERE id = $1', [garden.bed])).toEqual([
      { open_to_visitors: false },
    ]);
    expect(await world.sql('SELECT 1 FROM records.taxa')).toEqual([]);
  });

  it('adds records on its condition, and refuses them at the end as their table does, with all the rest', async () => {
    const three = () => answers([1, 2, 3].map(() => line(garden.nemavar, 1)));
    await must(send('Maren', three()));
    expect(
      await world.sql('SELECT name, family, permit_needed, number IS NOT NULL AS numbered FROM records.taxa'),
    ).toEqual([{ name: 'Sprayed thrice', family: 'Maren Solheim', permit_needed: false, numbered: true }]);
    const before = await stock(garden.nemavar);
    expect(await refusal(send('Maren', three()))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'already-used', facts: { label: 'Name' } }],
    });
    expect(await stock(garden.nemavar)).toBe(before);
    expect(await world.sql('SELECT count(*)::int AS many FROM records.sprays')).toEqual([{ many: 2 }]);
  });

  it('never takes more from a stock than there is, of fifty who send at once', async () => {
    await setStock(garden.soap, 300);
    const drafts = await Promise.all(
      Array.from({ length: 50 }, () => draft('Maren', FORM, answers([line(garden.soap, 10, 'r1')]))),
    );
    const done = await Promise.all(
      drafts.map(({ id, version }) => sendSubmission(as('Maren'), id, { key: newId(), version })),
    );
    expect(done.filter(({ ok: sentWell }) => sentWell)).toHaveLength(30);
    expect(await stock(garden.soap)).toBe(0);
    const [refused] = done.flatMap((one) => (one.ok ? [] : [one.error]));
    expect(refused).toMatchObject({
      kind: 'invalid',
      issues: [
        {
          code: 'too-little',
          path: ['qsplines', 'r1', 'qspamount'],
          facts: { label: 'In stock', record: 'Soft soap spray 2%', there: '0', asked: '10' },
        },
      ],
    });
  });

  it('holds records that two take from in opposite order, and neither waits for ever', async () => {
    await setStock(garden.soap, 100);
    await setStock(garden.nemavar, 100);
    const done = await Promise.all(
      Array.from({ length: 20 }, (_, i) => {
        const [a, b] = i % 2 === 0 ? [garden.soap, garden.nemavar] : [garden.nemavar, garden.soap];
        return send('Maren', answers([line(a, 5), line(b, 5)]));
      }),
    );
    expect(done.filter(({ ok: sentWell }) => sentWell)).toHaveLength(20);
    expect([await stock(garden.soap), await stock(garden.nemavar)]).toEqual([0, 0]);
  });

  it('is rehearsed with old and new values, and leaves nothing', async () => {
    await setStock(garden.soap, 100);
    const told = await must(
      rehearseForm(as('Ines'), FORM, {
        as: personNamed('Maren').id,
        at: null,
        answers: answers([line(garden.soap, 40)]),
      }),
    );
    expect(told.issues).toEqual([]);
    expect(told.records.find(({ key }) => key === 'products')).toMatchObject({
      what: 'changed',
      cells: [{ key: 'in_stock', before: '100', after: '60' }],
    });
    expect(await stock(garden.soap)).toBe(100);
  });

  it('is told to the sender at the beginning of a path, and to whoever decides at its end', async () => {
    const version = await edited((design) => ({
      ...design,
      steps: [{ id: 'stpell', label: 'Plant health', people: [personNamed('Pell').id] }],
    }));
    await must(releaseForm(as('Ines'), FORM, { version }));
    await setStock(garden.soap, 100);
    expect(await refusal(send('Maren', answers([line(garden.soap, 101)])))).toMatchObject({
      issues: [{ code: 'too-little' }],
    });
    const one = await sent('Maren', FORM, answers([line(garden.soap, 60)]));
    const other = await sent('Maren', FORM, answers([line(garden.soap, 60)]));
    expect(await stock(garden.soap)).toBe(100);
    const decide = ({ id, version: seen }: { id: string; version: number }) =>
      decideSubmission(as('Pell'), id, { key: newId(), version: seen, decision: 'approve', word: '' });
    await must(decide(one));
    expect(await stock(garden.soap)).toBe(40);
    expect(await refusal(decide(other))).toMatchObject({
      issues: [{ code: 'too-little', facts: { there: '40', asked: '60' } }],
    });
  });

  it('is asked for of those who design the table, by an owner who does not; what is taken off is written no more', async () => {
    const version = await edited(
      withFurther(([first, ...rest]) => [
        ...(first === undefined ? [] : [first]),
        ...rest,
        {
          t: 'add',
          id: 'fproduct',
          table: products,
          sets: ['cproname', 'cpromax', 'cprostock', 'cprorestricted'].map((column) => ({
            column,
            how: 'set' as const,
            expression: column === 'cproname' ? '"Soap"' : column === 'cprorestricted' ? 'true' : '1',
          })),
        },
      ]),
    );
    await world.sql(
      "DELETE FROM slate.access_grant WHERE table_id = $1 AND action = 'design' AND person_id IS NOT NULL",
      [products],
    );
    expect(await refusal(releaseForm(as('Ines'), FORM, { version }))).toMatchObject({
      issues: [{ code: 'table-not-open', path: ['store', products] }],
    });
    const form = async () =>
      (
        await world.sql('SELECT state, covers, asks FROM slate.table_form WHERE table_id = $1', [products])
      )[0];
    expect(await form()).toEqual({ state: 'allowed', covers: ['change'], asks: ['add'] });
    // What is asked for beyond may be refused by itself.
    await must(allowForm(as('Wren'), 'products', { form: FORM, allowed: false }));
    expect(await form()).toEqual({ state: 'allowed', covers: ['change'], asks: [] });
    await must(allowForm(as('Wren'), 'products', { form: FORM, allowed: false }));
    expect(await form()).toBeUndefined();
    await setStock(garden.soap, 100);
    const one = await draft('Maren', FORM, answers([line(garden.soap, 1)]));
    const key = { key: newId(), version: one.version };
    expect(await refusal(sendSubmission(as('Maren'), one.id, key))).toMatchObject({
      issues: [{ code: 'table-closed', facts: { table: 'Products' } }],
    });
  });

  it.each([
    ['change of another column', 'UPDATE records.products SET max_rate = 1 WHERE id = $1'],
    ['change of a record nobody picked', 'UPDATE records.products SET in_stock = 1 WHERE id = $1'],
    ['removal', 'UPDATE records.products SET removed_at = now() WHERE id = $1'],
  ])('lets the application do no %s', async (what, statement) => {
    await must(allowAgain());
    const one = await draft('Maren', FORM, answers([line(garden.soap, 1)]));
    const { default: pg } = await import('pg');
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    try {
      await client.query('BEGIN');
      await client.query(
        "SELECT set_config('slate.person', $1, true), set_config('slate.submission', $2, true)",
        [personNamed('Maren').id, one.id],
      );
      await client.query('SELECT slate.rehearse_submission($1)', [one.id]);
      const record = what === 'change of a record nobody picked' ? garden.nemavar : garden.soap;
      // What it may do, so that what follows is refused for what it is.
      expect(
        (await client.query('UPDATE records.products SET in_stock = 1 WHERE id = $1', [garden.soap]))
          .rowCount,
      ).toBe(1);
      await expect(client.query(statement, [record])).rejects.toThrow(/not to be (changed|removed)/);
    } finally {
      await client.query('ROLLBACK');
      await client.end();
    }
  });
});

/** Wren, who administers, designs the table: the live release may write there again. */
async function allowAgain() {
  await world.sql(
    "INSERT INTO slate.table_form (table_id, form_id, state, covers) VALUES ($1, $2, 'allowed', '{change}') ON CONFLICT DO NOTHING",
    [products, FORM],
  );
  return ok(null);
}
