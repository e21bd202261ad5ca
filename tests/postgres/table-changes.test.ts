import { beforeAll, describe, expect, it } from 'vitest';
import { plainColumn, plainTable, type Column, type Table } from '../../src/core/table/model';
import type { Redesign } from '../../src/core/table/redesign';
import { addQuestion, asKind } from '../../src/core/form/edit';
import { createForm } from '../../src/use-cases/forms/create-form';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { changeTable, runTableChange } from '../../src/use-cases/tables/change-table';
import { dropTableChange, openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { readTableImpact } from '../../src/use-cases/tables/table-impact';
import {
  as,
  draft,
  formIds,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  type Garden,
  useWorld,
} from '../support/world';

const world = useWorld();
let garden: Garden;
beforeAll(async () => {
  garden = await plantGarden(world);
  await releaseSampleForms();
});

const column = (id: string, label: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: label.toLowerCase().replaceAll(' ', '_'),
  label,
  ...more,
});
const keysOf = async (): Promise<string[]> =>
  (
    await world.sql(
      `SELECT attname AS key FROM pg_attribute WHERE attrelid = 'records.seed_lots'::regclass AND attnum > 0 AND NOT attisdropped ORDER BY attnum`,
    )
  ).map(({ key }) => String(key));

const lots = (): Table => ({
  ...plainTable,
  id: newId(),
  key: 'seed_lots',
  label: 'Seed lots',
  prefix: 'SL',
  columns: [
    column('clot', 'Lot', { required: true, unique: true }),
    column('cweight', 'Weight'),
    column('ctaken', 'Taken'),
    column('cbed', 'Bed'),
    column('cstate', 'State'),
  ],
});
const wanted = async (key = 'seed_lots'): Promise<Table> => {
  const { table } = await must(openTableDesign(as('Ines'), key));
  if (table === null) throw new Error('no table');
  return table;
};
const withColumn = (table: Table, id: string, change: Partial<Column>): Table => ({
  ...table,
  columns: table.columns.map((one) => (one.id === id ? { ...one, ...change } : one)),
});

async function drafted(
  table: Table,
  more: Partial<Redesign> = {},
  name = 'Ines',
): Promise<{ id: string; version: number }> {
  const id = newId();
  const open = await openTableDesign(as(name), table.key);
  if (open.ok && open.value.draft !== null) await must(dropTableChange(as(name), open.value.draft.id));
  return {
    id,
    ...(await must(
      saveTableChange(as(name), id, {
        version: 0,
        base: table.version,
        redesign: { table, readings: {}, mends: {}, ...more },
      }),
    )),
  };
}
const changed = async (table: Table, more: Partial<Redesign> = {}): Promise<string> => {
  const { id, version } = await drafted(table, more);
  return (await must(runTableChange(as('Ines'), id, { version }))).state;
};
const codes = async (table: Table, more: Partial<Redesign> = {}): Promise<string[]> => {
  const { id, version } = await drafted(table, more);
  const refused = await refusal(runTableChange(as('Ines'), id, { version }));
  return refused.kind === 'invalid'
    ? refused.issues.map(({ code }) => code)
    : [refused.kind === 'stale' ? refused.why : refused.kind];
};

describe('a table of one’s own', () => {
  it('is made as it was designed, with defaults, sets that are not shared, and its numbers', async () => {
    const table = {
      ...lots(),
      numbering: 'running' as const,
      together: [['cbed', 'ctaken']],
      columns: [
        ...lots().columns,
        column('cmade', 'Made', { kind: 'date', default: 'today()' }),
        column('cdue', 'Due', { kind: 'date', default: 'today() + duration("P14D")' }),
      ],
    };
    expect(
      await changed({
        ...table,
        columns: table.columns.map((one) => ({ ...one, description: `About ${one.label}` })),
      }),
    ).toBe('done');
    await world.sql(
      `INSERT INTO records.seed_lots (lot, weight, taken, bed, state) VALUES ('A1', '12,5 g', '03.11.2026', 'g4-12 · fern house, north bench', 'Fresh'), ('A2', 'ca. 12', '4.11.26', 'Fern house', 'Fresh'), ('A3', NULL, '5.11.2026', NULL, 'Old ')`,
    );
    expect(
      await world.sql(
        'SELECT number, made = CURRENT_DATE AS today, due - made AS days FROM records.seed_lots ORDER BY number',
      ),
    ).toEqual(['SL-0001', 'SL-0002', 'SL-0003'].map((number) => ({ number, today: true, days: 14 })));
    await expect(
      world.sql(`INSERT INTO records.seed_lots (lot, taken, bed) VALUES ('A4', '4.11.26', 'Fern house')`),
    ).rejects.toMatchObject({ code: '23505' });
  });

  it('is not made with a key that is taken, without columns, or with a default that is none', async () => {
    expect(
      await codes({
        ...lots(),
        id: newId(),
        key: 'beds',
        columns: [
          column('ca', 'A', { kind: 'whole', default: '"many"' }),
          column('cb', 'B', { default: 'weight + 1' }),
        ],
      }),
    ).toEqual(['table-key-taken', 'default-kind', 'unknown-name']);
    expect(await codes({ ...lots(), id: newId(), key: 'empty_one', columns: [] })).toEqual([
      'columns-missing',
    ]);
  });

  it('keeps its key, what its rows belong to, and only columns there are, whatever is sent', async () => {
    const table = await wanted();
    expect(
      await changed({
        ...table,
        key: 'elsewhere',
        parent: (await wanted('beds')).id,
        title: ['clot', 'cnowhere'],
        retired: [column('cforged', 'Forged')],
        together: [['cbed', 'ctaken'], ['cforged']],
      }),
    ).toBe('done');
    expect(await wanted()).toMatchObject({
      key: 'seed_lots',
      parent: null,
      title: ['clot'],
      retired: [],
      together: [['cbed', 'ctaken']],
    });
    expect(await codes({ ...lots(), id: newId(), key: 'orphans', parent: newId() })).toEqual([
      'table-unknown',
    ]);
  });

  it('is for owners only', async () => {
    expect(await refusal(openTableDesign(as('Maren'), 'beds'))).toMatchObject({ kind: 'forbidden' });
    expect(
      await refusal(
        saveTableChange(as('Maren'), newId(), {
          version: 0,
          base: 0,
          redesign: { table: lots(), readings: {}, mends: {} },
        }),
      ),
    ).toMatchObject({ kind: 'forbidden' });
    const { id, version } = await drafted({ ...lots(), id: newId(), key: 'hidden_away' });
    expect(await refusal(runTableChange(as('Wren'), id, { version }))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(readTableImpact(as('Wren'), id))).toMatchObject({ kind: 'not-found' });
    expect(await world.sql(`SELECT to_regclass('records.hidden_away') AS made`)).toEqual([{ made: null }]);
  });
});

describe('values are converted with care', () => {
  it('tells what does not fit, by value, before anything runs', async () => {
    const table = withColumn(
      withColumn(await wanted(), 'cweight', { kind: 'decimal', decimals: 1, unit: 'g' }),
      'cbed',
      { kind: 'reference', target: (await wanted('beds')).id },
    );
    const { id } = await drafted(table, { readings: { cweight: { decimalSign: ',' } } });
    const impact = await must(readTableImpact(as('Ines'), id));
    expect(
      impact.columns.map((one) => [
        one.column,
        one.filled,
        one.misfits.map(({ text, rows, code, example }) => [text, rows, code, example]),
      ]),
    ).toEqual([
      ['cweight', 2, [['ca. 12', 1, 'not-a-number', 'SL-0002']]],
      ['cbed', 2, [['Fern house', 1, 'not-found-there', 'SL-0002']]],
    ]);
    expect(impact).toMatchObject({ records: 3, byJob: false, issues: [] });
    expect(await codes(table, { readings: { cweight: { decimalSign: ',' } } })).toEqual([
      'values-misfit',
      'values-misfit',
    ]);
    expect(
      (await world.sql('SELECT weight FROM records.seed_lots ORDER BY number')).map(({ weight }) => weight),
    ).toEqual(['12,5 g', 'ca. 12', null]);
    expect(await keysOf()).not.toContain('becoming_cweight');
  });

  it('takes what stands instead, converts everything at once, and leaves no change in the records’ own past', async () => {
    const table = await wanted();
    const next = withColumn(
      withColumn(
        withColumn(
          withColumn(table, 'cweight', { kind: 'decimal', decimals: 1, unit: 'g', required: true }),
          'cbed',
          { kind: 'reference', target: (await wanted('beds')).id },
        ),
        'ctaken',
        { kind: 'date', key: 'taken_on', label: 'Taken on' },
      ),
      'cstate',
      {
        kind: 'choice',
        choices: [
          { code: 'fresh', label: 'Fresh' },
          { code: 'old', label: 'Old', retired: true },
        ],
      },
    );
    expect(
      await changed(next, {
        readings: { cweight: { decimalSign: ',' }, ctaken: { dateOrder: 'dmy' } },
        mends: { cweight: { 'ca. 12': '12', '': '0' }, cbed: { 'Fern house': '' } },
      }),
    ).toBe('done');
    expect(
      await world.sql(
        `SELECT lot, weight, taken_on::text, bed, state, version FROM records.seed_lots ORDER BY number`,
      ),
    ).toEqual([
      { lot: 'A1', weight: '12.5', taken_on: '2026-11-03', bed: garden.bed, state: 'fresh', version: 1 },
      { lot: 'A2', weight: '12.0', taken_on: '2026-11-04', bed: null, state: 'fresh', version: 1 },
      { lot: 'A3', weight: '0.0', taken_on: '2026-11-05', bed: null, state: 'old', version: 1 },
    ]);
    expect(
      await world.sql(
        `SELECT change, count(*)::int AS n FROM slate.history WHERE table_id = $1 GROUP BY change`,
        [table.id],
      ),
    ).toEqual([{ change: 'made', n: 3 }]);
    await expect(world.sql(`INSERT INTO records.seed_lots (lot) VALUES ('A5')`)).rejects.toMatchObject({
      code: '23502',
    });
    await expect(
      world.sql(`INSERT INTO records.seed_lots (lot, weight, bed) VALUES ('A5', 1, gen_random_uuid())`),
    ).rejects.toMatchObject({ code: '23503' });
    await expect(
      world.sql(`INSERT INTO records.seed_lots (lot, weight, state) VALUES ('A5', 1, 'stale')`),
    ).rejects.toMatchObject({ code: '23514' });
    // What hung on the columns that were filled anew hangs there still.
    await expect(
      world.sql(
        `INSERT INTO records.seed_lots (lot, weight, taken_on, bed) VALUES ('A5', 1, '2026-11-03', $1)`,
        [garden.bed],
      ),
    ).rejects.toMatchObject({ code: '23505' });
  });

  it('asks what records there are get in a column that must be filled', async () => {
    const table = await wanted();
    const more = {
      ...table,
      columns: [...table.columns, column('cshelf', 'Shelf', { kind: 'whole', required: true, default: '7' })],
    };
    expect(
      await codes({
        ...table,
        columns: [...table.columns, column('cshelf', 'Shelf', { kind: 'whole', required: true })],
      }),
    ).toEqual(['required']);
    expect(await changed(more, { mends: { cshelf: { '': '3' } } })).toBe('done');
    await world.sql(`INSERT INTO records.seed_lots (lot, weight) VALUES ('B1', 2)`);
    expect(
      await world.sql(
        'SELECT shelf, count(*)::int AS n FROM records.seed_lots GROUP BY shelf ORDER BY shelf',
      ),
    ).toEqual([
      { shelf: '3', n: 3 },
      { shelf: '7', n: 1 },
    ]);
  });
});

describe('what is shared is told', () => {
  it('before a column must be different in every record', async () => {
    const table = withColumn(await wanted(), 'cshelf', { unique: true });
    const { id } = await drafted(table);
    expect((await must(readTableImpact(as('Ines'), id))).columns).toMatchObject([
      { column: 'cshelf', repeatedRows: 3, repeated: [{ text: '3', rows: 3 }] },
    ]);
    expect(await codes(table)).toEqual(['values-repeated']);
    expect(
      await codes({
        ...table,
        columns: (await wanted()).columns,
        together: [...table.together, ['cshelf', 'cstate']],
      }),
    ).toEqual(['values-repeated']);
  });
});

describe('columns are retired before they go', () => {
  it('hides them and keeps their values, brings them back, and removes them for good in a second change', async () => {
    const table = await wanted();
    const shelf = table.columns.find(({ id }) => id === 'cshelf')!;
    const without = { ...table, columns: table.columns.filter(({ id }) => id !== 'cshelf') };
    expect(await codes(without)).toEqual(['retire-first']);
    expect(await changed({ ...without, retired: [{ ...shelf, required: false, default: '' }] })).toBe('done');
    expect((await wanted()).columns.map(({ id }) => id)).not.toContain('cshelf');
    await world.sql(`INSERT INTO records.seed_lots (lot, weight) VALUES ('C1', 2)`);
    const hidden = await wanted();
    expect(await changed({ ...hidden, retired: [], columns: [...hidden.columns, ...hidden.retired] })).toBe(
      'done',
    );
    expect(
      (await world.sql('SELECT shelf FROM records.seed_lots ORDER BY number')).map((row) => row['shelf']),
    ).toEqual(['3', '3', '3', '7', null]);
    const back = await wanted();
    const retired = {
      ...back,
      columns: back.columns.filter(({ id }) => id !== 'cshelf'),
      retired: [back.columns.find(({ id }) => id === 'cshelf')!],
    };
    await changed(retired);
    expect(await changed({ ...(await wanted()), retired: [] })).toBe('done');
    expect(await keysOf()).not.toContain('shelf');
  });
});

describe('forms go on', () => {
  it('with a renamed column, which breaks no formula and no filling', async () => {
    const products = await wanted('products');
    expect(await changed(withColumn(products, 'cpromax', { key: 'top_rate', label: 'Top rate' }))).toBe(
      'done',
    );
    const table = await wanted('treatments');
    expect(await changed(withColumn(table, 'qtrseen', { key: 'was_seen' }))).toBe('done');
    await sent('Maren', formIds.treatment, treatmentAnswers(garden));
  });

  it('and what would break one that is live is refused, with the form and the reason', async () => {
    const products = await wanted('products');
    const retired = {
      ...products,
      columns: products.columns.filter(({ id }) => id !== 'cpromax'),
      retired: products.columns.filter(({ id }) => id === 'cpromax'),
    };
    const { id } = await drafted(retired);
    expect((await must(readTableImpact(as('Ines'), id))).uses).toMatchObject([
      { column: 'cpromax', form: 'Treatment request', live: true },
    ]);
    expect(await codes(withColumn(products, 'cpromax', { kind: 'text', decimals: null }))).toEqual([
      'form-breaks',
    ]);
  });

  it('and a form’s answer that is now kept as another kind is read as that kind, or refused when it is sent', async () => {
    const form = await must(createForm(as('Ines'), { id: newId(), title: 'Rain gauge' }));
    const { design } = await must(openWorkbench(as('Ines'), form.id));
    const asked = asKind(
      { id: 'qrain', key: 'rain', label: 'Rain', hint: '', required: true },
      'text',
      design.table,
    );
    const spare = asKind(
      { id: 'qspare', key: 'spare', label: 'Spare', hint: '', required: false },
      'text',
      design.table,
    );
    const { version } = await must(
      editForm(as('Ines'), form.id, {
        version: 1,
        design: addQuestion(
          addQuestion(design, design.sections[0]!.id, asked),
          design.sections[0]!.id,
          spare,
        ),
      }),
    );
    await must(releaseForm(as('Ines'), form.id, { version, fill: 'everybody' }));
    await sent('Maren', form.id, { values: { qrain: '11.5', qspare: 'x' }, rows: {}, reasons: {} });
    const table = await wanted('rain_gauge');
    const narrowed = withColumn(table, 'qrain', { kind: 'decimal', decimals: 1 });
    expect(
      await changed({
        ...narrowed,
        columns: narrowed.columns.filter(({ id }) => id !== 'qspare'),
        retired: narrowed.columns.filter(({ id }) => id === 'qspare'),
      }),
    ).toBe('done');
    await sent('Maren', form.id, { values: { qrain: '12.5', qspare: 'y' }, rows: {}, reasons: {} });
    expect(await world.sql('SELECT rain, spare FROM records.rain_gauge ORDER BY number')).toEqual([
      { rain: '11.5', spare: 'x' },
      { rain: '12.5', spare: 'y' },
    ]);
    const wet = await draft('Maren', form.id, { values: { qrain: 'a lot' }, rows: {}, reasons: {} });
    expect(
      await refusal(sendSubmission(as('Maren'), wet.id, { key: newId(), version: wet.version })),
    ).toMatchObject({ kind: 'invalid', issues: [{ code: 'not-a-number', path: ['qrain'] }] });
    expect(await codes({ ...(await wanted('rain_gauge')), retired: [] })).toEqual(['form-writes']);
    // The next release must ask what the table keeps.
    const edited = await must(
      editForm(as('Ines'), form.id, {
        version,
        design: {
          ...addQuestion(
            addQuestion(design, design.sections[0]!.id, { ...asked, label: 'Rain, mm' }),
            design.sections[0]!.id,
            spare,
          ),
        },
      }),
    );
    const refused = await refusal(
      releaseForm(as('Ines'), form.id, { version: edited.version, fill: 'everybody' }),
    );
    expect(refused.kind === 'invalid' && refused.issues.map(({ code }) => code)).toEqual([
      'kind-changed',
      'column-retired',
    ]);
  });
});

describe('two owners', () => {
  it('the second is told who was first, and nothing is overwritten', async () => {
    const table = await wanted();
    const second = await drafted({ ...table, label: 'Lots of seed' }, {}, 'Wren');
    expect(await changed({ ...table, label: 'Seed store' })).toBe('done');
    expect(await refusal(runTableChange(as('Wren'), second.id, { version: second.version }))).toMatchObject({
      kind: 'stale',
      why: 'table-changed',
      facts: { by: 'Ines Okafor' },
    });
    const now = await wanted();
    const again = await must(
      saveTableChange(as('Wren'), second.id, {
        version: second.version,
        base: now.version,
        redesign: { table: { ...now, label: 'Lots of seed' }, readings: {}, mends: {} },
      }),
    );
    expect(await must(runTableChange(as('Wren'), second.id, { version: again.version }))).toEqual({
      state: 'done',
    });
    expect(
      (await must(openTableDesign(as('Ines'), 'seed_lots'))).done
        .slice(0, 2)
        .map(({ by, table: { label } }) => [by, label]),
    ).toEqual([
      ['Wren Calloway', 'Lots of seed'],
      ['Ines Okafor', 'Seed store'],
    ]);
  });
});

describe('a large table', () => {
  const rows = 30_000;
  let table: Table;
  beforeAll(async () => {
    const made = {
      ...plainTable,
      id: newId(),
      key: 'readings',
      label: 'Readings',
      prefix: 'RE',
      columns: [column('cplace', 'Place', { required: true }), column('cvalue', 'Value')],
    };
    await changed(made);
    await world.sql(
      `INSERT INTO records.readings (number, place, value) SELECT 'X-' || i, 'p' || i, (i % 1000) || ',5' FROM generate_series(1, $1) i`,
      [rows],
    );
    table = await wanted('readings');
  });
  const next = (): Table =>
    withColumn(withColumn(table, 'cvalue', { kind: 'decimal', decimals: 1 }), 'cplace', { unique: true });

  it('is filled by a job while people write, and what they wrote meanwhile is in it', async () => {
    const { id, version } = await drafted(next(), { readings: { cvalue: { decimalSign: ',' } } });
    expect(await must(readTableImpact(as('Ines'), id))).toMatchObject({
      records: rows,
      byJob: true,
      columns: [
        { column: 'cvalue', misfitRows: 0 },
        { column: 'cplace', repeatedRows: 0 },
      ],
    });
    expect(await must(runTableChange(as('Ines'), id, { version }))).toEqual({ state: 'running' });
    let writing = true;
    let written = 0;
    const writer = (async () => {
      while (writing) {
        await world.sql(`UPDATE records.readings SET value = '7,7' WHERE number = $1`, [
          `X-${1 + ((written * 997) % rows)}`,
        ]);
        await world.sql(`INSERT INTO records.readings (place, value) VALUES ($1, '8,8')`, [`new ${written}`]);
        written += 1;
        await new Promise((resolve) => setTimeout(resolve, 5));
      }
    })();
    // Once the change has ended the old texts are refused, which ends the writing.
    const stopped = writer.catch((error: unknown) => error);
    await changeTable(id);
    writing = false;
    await stopped;
    expect(written).toBeGreaterThan(10);
    expect((await wanted('readings')).columns.map(({ kind, unique }) => [kind, unique])).toEqual([
      ['text', true],
      ['decimal', false],
    ]);
    const counts = await world.sql(
      `SELECT count(*)::int AS n, count(value)::int AS filled, count(*) FILTER (WHERE value = 8.8)::int AS fresh, count(*) FILTER (WHERE value = 7.7)::int AS touched FROM records.readings`,
    );
    expect(counts[0]).toMatchObject({
      n: rows + Number(counts[0]?.['fresh']),
      filled: rows + Number(counts[0]?.['fresh']),
    });
    expect(Number(counts[0]?.['fresh'])).toBeGreaterThanOrEqual(written);
    expect(Number(counts[0]?.['touched'])).toBeGreaterThanOrEqual(written);
    expect(await world.sql('SELECT count(*)::int AS n FROM slate.change_pending')).toEqual([{ n: 0 }]);
  }, 120_000);

  it('is as it was when a value does not fit after all, and says which', async () => {
    const now = await wanted('readings');
    await world.sql(`UPDATE records.readings SET place = 'somewhere' WHERE number = 'X-29999'`);
    const { id, version } = await drafted(withColumn(now, 'cplace', { kind: 'date' }));
    await must(runTableChange(as('Ines'), id, { version }));
    await changeTable(id);
    const { draft } = await must(openTableDesign(as('Ines'), 'readings'));
    expect(draft).toMatchObject({ state: 'refused', issues: [{ code: 'values-misfit', path: ['cplace'] }] });
    expect(
      await world.sql(
        `SELECT count(*)::int AS n FROM pg_attribute WHERE attrelid = 'records.readings'::regclass AND attname LIKE 'becoming%' AND NOT attisdropped`,
      ),
    ).toEqual([{ n: 0 }]);
    expect(
      await world.sql(
        `SELECT tgname FROM pg_trigger WHERE tgrelid = 'records.readings'::regclass AND tgname = 'filling'`,
      ),
    ).toEqual([]);
  }, 60_000);
});
