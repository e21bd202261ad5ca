import { beforeAll, describe, expect, it } from 'vitest';
import type { EditInput } from '../../src/core/record/edit-input';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { nameRecords, pickRecords } from '../../src/use-cases/records/pick-records';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { openTableAtWork } from '../../src/use-cases/records/table-at-work';
import { beds } from '../../demo/tables';
import { as, must, newId, refusal, useWorld } from '../support/world';
import { ALL_EDITS, cuts, onlyGrants, plantedBed, trees } from '../support/trees';

/** Records that are changed directly, as the grid does it: one batch, once, by those who may, with the way back. */
const world = useWorld(undefined, [beds, trees, cuts]);
let bed = '';

beforeAll(async () => {
  await onlyGrants(world, [
    ...[beds, trees, cuts].map((table) => ['Ines', table, ...ALL_EDITS] as const),
    ['Tomasz', trees, 'see'],
    ['Tomasz', beds, 'see'],
    ['Maren', trees, 'see', 'change'],
  ]);
  bed = await plantedBed(world);
});

type Edit<T = EditInput> = T extends EditInput ? Omit<T, 'table'> & { readonly table?: string } : never;
const save = (name: string, table: string, edits: readonly Edit[], key = newId()) =>
  saveEdits(as(name), {
    key,
    edits: edits.map((edit) => ({ table: table === 'cuts' ? cuts.id : trees.id, ...edit }) as EditInput),
  });
const adding = (values: Record<string, string | null>, parent: string | null = null) => ({
  t: 'add' as const,
  id: newId(),
  parent,
  values,
});
const shown = async () => (await must(openRecords(as('Ines'), 'trees', { sort: 'name' }))).rows;

describe('a batch', () => {
  it('is done once however often it is sent, shows at once, and is taken back as a whole', async () => {
    const [one, other] = [
      adding({ ctrname: 'Ash', ctrbed: bed }),
      adding({ ctrname: 'Birch', ctrcount: '2' }),
    ];
    const key = newId();
    const first = await must(save('Ines', 'trees', [one, other], key));
    expect(await must(save('Ines', 'trees', [one, other], key))).toEqual(first);
    expect(await refusal(save('Ines', 'trees', [one], key))).toMatchObject({ why: 'key-reused' });
    const [ash, birch] = await shown();
    expect([ash?.id, ash?.cells['ctrbed'], ash?.named, birch?.cells['ctrcount']]).toEqual([
      one.id,
      'G4 · Fern house',
      { ctrbed: bed },
      '2',
    ]);
    const change: Edit = {
      t: 'change',
      id: one.id,
      version: 1,
      before: { ctrcount: null, ctrbed: bed },
      values: { ctrcount: '7', ctrbed: null },
    };
    const changed = await must(save('Ines', 'trees', [change, { t: 'remove', id: other.id, version: 1 }]));
    expect(
      (await shown()).map(({ cells }) => [cells['ctrname'], cells['ctrcount'], cells['ctrbed']]),
    ).toEqual([['Ash', '7', null]]);
    await must(save('Ines', 'trees', changed.undo));
    expect((await shown()).map(({ cells }) => [cells['ctrname'], cells['ctrcount']])).toEqual([
      ['Ash', null],
      ['Birch', '2'],
    ]);
    const { history } = await must(openRecord(as('Ines'), 'trees', one.id));
    expect(history[1]?.cells).toEqual([
      { column: 'ctrcount', before: { raw: null }, after: { raw: '7' } },
      { column: 'ctrbed', before: { raw: bed, title: 'G4 · Fern house' }, after: { raw: null } },
    ]);
    expect(history.map(({ change: what, by }) => [what, by])).toEqual([
      ['made', 'Ines Okafor'],
      ['changed', 'Ines Okafor'],
      ['changed', 'Ines Okafor'],
    ]);
  });

  it('is refused whole, each reason at its record and column', async () => {
    const [ash] = await shown();
    const wrong: Edit[] = [
      adding({ ctrname: 'Cedar' }),
      adding({ ctrname: '', ctrcount: 'many' }),
      { t: 'change', id: ash?.id ?? '', version: 1, before: { gone: 'x' }, values: { gone: 'y' } },
    ];
    const refused = await refusal(save('Ines', 'trees', wrong));
    const [, second] = wrong;
    expect(refused.kind === 'invalid' && refused.issues.map(({ path, code }) => [...path, code])).toEqual([
      [second?.id, 'ctrcount', 'not-a-number'],
      [second?.id, 'ctrname', 'required'],
      [ash?.id, 'gone', 'unknown-column'],
    ]);
    expect(await shown()).toHaveLength(2);
    const taken = await refusal(save('Ines', 'trees', [adding({ ctrname: 'Ash' })]));
    expect(taken).toMatchObject({ kind: 'invalid', issues: [{ code: 'already-used' }] });
  });

  it('removes a record that others referred to, once they are emptied in the same batch, and takes both back', async () => {
    const old = {
      t: 'add' as const,
      id: newId(),
      parent: null,
      table: beds.id,
      values: { cbedcode: 'Z9', cbedname: 'Old frame', cbedhouse: 'Nursery', cbedarea: '2' },
    };
    const tree = adding({ ctrname: 'Rowan', ctrbed: old.id });
    await must(save('Ines', 'trees', [old, tree]));
    const removal = { t: 'remove' as const, table: beds.id, id: old.id, version: 1 };
    expect(await refusal(save('Ines', 'trees', [removal]))).toMatchObject({
      issues: [{ code: 'record-named', path: [old.id], facts: { count: 1 } }],
    });
    const emptied = {
      t: 'change' as const,
      id: tree.id,
      version: 1,
      before: { ctrbed: old.id },
      values: { ctrbed: null },
    };
    const { undo } = await must(save('Ines', 'trees', [removal, emptied]));
    expect((await shown()).find(({ id }) => id === tree.id)?.named).toEqual({});
    await must(save('Ines', 'trees', undo));
    expect((await shown()).find(({ id }) => id === tree.id)?.named).toEqual({ ctrbed: old.id });
    const left = await must(openRecord(as('Ines'), 'trees', tree.id));
    await must(save('Ines', 'trees', [{ t: 'remove', id: tree.id, version: left.record.version }]));
  });

  it('tells who was first where both changed the same cell, and merges where they did not', async () => {
    const [ash] = await shown();
    const { id = '', version = 0 } = ash ?? {};
    const count = (values: string, before: string | null): Edit => ({
      t: 'change',
      id,
      version,
      before: { ctrcount: before },
      values: { ctrcount: values },
    });
    await must(save('Maren', 'trees', [count('3', null)]));
    const refused = await refusal(save('Ines', 'trees', [count('4', null)]));
    expect(refused).toMatchObject({
      issues: [{ code: 'value-changed', path: [id, 'ctrcount'], facts: { theirs: '3' } }],
    });
    const renamed: Edit = {
      t: 'change',
      id,
      version,
      before: { ctrname: 'Ash' },
      values: { ctrname: 'Ash tree' },
    };
    await must(save('Ines', 'trees', [renamed]));
    expect((await shown())[0]?.cells).toMatchObject({ ctrname: 'Ash tree', ctrcount: '3' });
  });
});

it('goes into no column that forms and imports alone write', async () => {
  const elder = adding({ ctrname: 'Elder', ctrcount: '3' });
  await world.sql(`UPDATE slate.designed_column SET locked = true WHERE id = 'ctrcount'`);
  expect(await refusal(save('Ines', 'trees', [elder]))).toMatchObject({
    issues: [{ code: 'column-locked', path: [elder.id, 'ctrcount'] }],
  });
  await must(save('Ines', 'trees', [adding({ ctrname: 'Elder' })]));
  await world.sql(`UPDATE slate.designed_column SET locked = false WHERE id = 'ctrcount'`);
});

it('goes into no column that is retired', async () => {
  const [ash] = await shown();
  const count: Edit = {
    t: 'change',
    id: ash?.id ?? '',
    version: ash?.version ?? 1,
    before: { ctrcount: '3' },
    values: { ctrcount: '4' },
  };
  await world.sql(`UPDATE slate.designed_column SET retired = true WHERE id = 'ctrcount'`);
  expect(await refusal(save('Ines', 'trees', [count]))).toMatchObject({
    issues: [{ code: 'unknown-column', path: [ash?.id, 'ctrcount'], facts: { name: 'Count' } }],
  });
  await world.sql(`UPDATE slate.designed_column SET retired = false WHERE id = 'ctrcount'`);
  await must(save('Ines', 'trees', [count]));
});

describe('rows of a record', () => {
  it('stand behind those it has, in the order they come', async () => {
    const [ash] = await shown();
    const parent = ash?.id ?? '';
    await must(
      save('Ines', 'cuts', [adding({ ccuwhy: 'storm' }, parent), adding({ ccuwhy: 'light' }, parent)]),
    );
    await must(save('Ines', 'cuts', [adding({ ccuwhy: 'shape' }, parent)]));
    const { related } = await must(openRecord(as('Ines'), 'trees', parent));
    expect(related[0]?.rows.map(({ cells }) => cells['ccuwhy'])).toEqual(['storm', 'light', 'shape']);
    expect(await refusal(save('Ines', 'cuts', [adding({ ccuwhy: 'x' })]))).toMatchObject({ kind: 'invalid' });
  });
});

describe('who may', () => {
  it('is asked for each action, and a table that is not seen is not there', async () => {
    expect(await refusal(save('Tomasz', 'trees', [adding({ ctrname: 'Elm' })]))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'edit-not-allowed', facts: { action: 'add' } }],
    });
    expect(await refusal(save('Ada', 'trees', [adding({ ctrname: 'Elm' })]))).toEqual({
      kind: 'not-found',
      what: 'table',
    });
    const may = async (name: string) => (await must(openTableAtWork(as(name), 'trees'))).may;
    expect([await may('Ines'), await may('Maren')]).toEqual([
      { add: true, change: true, remove: true },
      { add: false, change: true, remove: false },
    ]);
  });

  it('picks from a table, by words and by pasted names', async () => {
    const { options } = await must(pickRecords(as('Tomasz'), 'beds', 'fern'));
    expect(options.map(({ id, title }) => [id, title])).toEqual([[bed, 'G4 · Fern house']]);
    const { records } = await must(nameRecords(as('Tomasz'), 'beds', ['g4 · fern house', 'G9']));
    expect(records.map((one) => one?.id ?? null)).toEqual([bed, null]);
    expect(await refusal(pickRecords(as('Ada'), 'beds', ''))).toEqual({ kind: 'not-found', what: 'table' });
  });
});
