import { beforeAll, describe, expect, it } from 'vitest';
import type { Table } from '../../src/core/table/model';
import { beginBulkChange, lastBulkChange, steerBulkChange } from '../../src/use-cases/records/bulk-change';
import { runBulkChange } from '../../src/use-cases/records/run-bulk-change';
import { beds } from '../../demo/tables';
import { as, must, newId, refusal, useWorld } from '../support/world';
import { onlyGrants, trees } from '../support/trees';

/** One column of all records that are found, set by a job: in batches, as whoever asked, and taken back as a whole. */
const checked: Table = {
  ...trees,
  checks: [
    {
      id: 'cksmall',
      on: 'ctrcount',
      must: 'ctrheight = null or ctrheight != 3 or ctrcount < 1198',
      message: 'Fewer than that',
      otherwise: 'stop',
    },
  ],
};
const world = useWorld(undefined, [beds, checked]);
beforeAll(async () => {
  await onlyGrants(world, [
    ['Ines', beds, 'see'],
    ['Ines', checked, 'see', 'change'],
    ['Ada', checked, 'see', 'change'],
    ['Maren', checked, 'see'],
  ]);
  await world.sql(
    `INSERT INTO records.trees (name, count) SELECT 'Tree ' || n, n FROM generate_series(1, 1200) n`,
  );
});

const set = (more: Partial<Parameters<typeof beginBulkChange>[2]> = {}) => ({
  id: newId(),
  find: '',
  where: 'count > 100',
  column: 'ctrheight',
  value: '2.5' as string | boolean | null,
  title: '',
  ...more,
});
const begun = async (name: string, asked: ReturnType<typeof set>) => {
  const { id } = await must(beginBulkChange(as(name), 'trees', asked));
  await runBulkChange(id);
  return (await must(lastBulkChange(as(name), 'trees'))).last;
};
const heights = async () =>
  (await world.sql(`SELECT height::text, count(*)::int AS n FROM records.trees GROUP BY 1 ORDER BY 2`)).map(
    ({ height, n }) => [height, n],
  );

describe('a bulk change', () => {
  it('changes all that are found, with their history, and takes it back as a whole', async () => {
    const done = await begun('Ines', set());
    expect(done).toMatchObject({
      state: 'done',
      canTakeBack: true,
      progress: { of: 1100, looked: 1100, changed: 1100, refused: 0 },
    });
    expect(await heights()).toEqual([
      [null, 100],
      ['2.5', 1100],
    ]);
    const [trail] = await world.sql(`SELECT count(*)::int AS n FROM slate.history WHERE change = 'changed'`);
    expect(trail?.['n']).toBe(1100);

    // One that somebody changed since stays as they left it, and is told of.
    await world.sql(`UPDATE records.trees SET height = 9 WHERE name = 'Tree 700'`);
    const next = newId();
    const back = await must(steerBulkChange(as('Ines'), done?.id ?? '', { do: 'take-back', id: next }));
    expect(back).toMatchObject({ id: next, state: 'running', what: { t: 'take-back' } });
    await runBulkChange(next);
    const taken = (await must(lastBulkChange(as('Ines'), 'trees'))).last;
    expect(taken).toMatchObject({
      state: 'done',
      canTakeBack: false,
      progress: { changed: 1099, refused: 1 },
    });
    expect(await heights()).toEqual([
      ['9.0', 1],
      [null, 1199],
    ]);
  });

  it('leaves what a check refuses, says which and why, and changes all others', async () => {
    const done = await begun('Ines', set({ value: '3' }));
    expect(done?.progress).toMatchObject({ looked: 1100, changed: 1097, refused: 3 });
    expect(done?.progress.examples.map(({ issue }) => issue.code)).toEqual([
      'check-stops',
      'check-stops',
      'check-stops',
    ]);
  });

  it('writes nothing anew where it was cut off and begins again', async () => {
    const asked = set({ where: 'count <= 50', value: '4' });
    await must(beginBulkChange(as('Ines'), 'trees', asked));
    await must(beginBulkChange(as('Ines'), 'trees', asked));
    await Promise.all([runBulkChange(asked.id), runBulkChange(asked.id)]);
    await runBulkChange(asked.id);
    const [written] = await world.sql(
      `SELECT max(version)::int AS v, count(*)::int AS n FROM records.trees WHERE height = 4`,
    );
    expect(written).toEqual({ v: 2, n: 50 });
  });

  it('stops when it is told to, and when whoever asked may not any more', async () => {
    const asked = set({ value: '7' });
    await must(beginBulkChange(as('Ada'), 'trees', asked));
    expect(await refusal(beginBulkChange(as('Ada'), 'trees', set()))).toMatchObject({ why: 'bulk-running' });
    await must(steerBulkChange(as('Ada'), asked.id, { do: 'stop' }));
    await runBulkChange(asked.id);
    expect((await must(lastBulkChange(as('Ada'), 'trees'))).last).toMatchObject({
      state: 'stopped',
      progress: { looked: 0 },
    });

    const other = set({ value: '7' });
    await must(beginBulkChange(as('Ada'), 'trees', other));
    await world.sql(`DELETE FROM slate.access_grant WHERE action = 'change' AND person_id = $1`, [
      as('Ada').person.id,
    ]);
    await runBulkChange(other.id);
    expect((await must(lastBulkChange(as('Ada'), 'trees'))).last).toMatchObject({
      state: 'stopped',
      progress: { changed: 0 },
    });
    expect(await world.sql(`SELECT 1 FROM records.trees WHERE height = 7`)).toEqual([]);
  });

  it('is for those who may change the table, each for their own', async () => {
    expect(await refusal(beginBulkChange(as('Maren'), 'trees', set()))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'edit-not-allowed' }],
    });
    expect(await refusal(beginBulkChange(as('Maren'), 'beds', set()))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(beginBulkChange(as('Ines'), 'trees', set({ value: 'tall' })))).toMatchObject({
      kind: 'invalid',
    });
    expect(await refusal(beginBulkChange(as('Ines'), 'trees', set({ column: 'nothing' })))).toMatchObject({
      issues: [{ code: 'unknown-column' }],
    });
    // What no two records may share, and what must be filled, is refused before anything is tried.
    const named = (value: string | null) =>
      refusal(beginBulkChange(as('Ines'), 'trees', set({ column: 'ctrname', value })));
    expect([await named('Ash'), await named(null)]).toMatchObject([
      { issues: [{ code: 'value-for-all' }] },
      { issues: [{ code: 'required' }] },
    ]);
    expect(await refusal(beginBulkChange(as('Ines'), 'trees', set({ where: 'count >' })))).toMatchObject({
      kind: 'invalid',
    });
    const mine = (await must(lastBulkChange(as('Ines'), 'trees'))).last?.id ?? '';
    expect((await must(lastBulkChange(as('Maren'), 'trees'))).last).toBeNull();
    expect(await refusal(steerBulkChange(as('Maren'), mine, { do: 'stop' }))).toMatchObject({
      kind: 'not-found',
    });
  });
});
