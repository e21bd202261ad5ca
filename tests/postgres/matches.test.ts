import { beforeAll, describe, expect, it } from 'vitest';
import type { Table } from '../../src/core/table/model';
import { openRecord, openRecords, openRecordPage } from '../../src/use-cases/records/open-records';
import { readGroups } from '../../src/use-cases/records/read-groups';
import { findMatches } from '../../src/use-cases/tables/find-matches';
import { beds } from '../../demo/tables';
import { as, must, refusal, useWorld } from '../support/world';
import { onlyGrants, trees } from '../support/trees';

/** Records that belong together because they hold the same value: a bed's trees by its name, and trees of one height. */
const alike: Table = {
  ...trees,
  matches: [
    { id: 'mbeds', from: 'ctrname', table: beds.id, to: 'cbedname' },
    { id: 'mcount', from: 'ctrcount', table: trees.id, to: 'ctrcount' },
  ],
};
const world = useWorld(undefined, [beds, alike]);
beforeAll(async () => {
  await onlyGrants(world, [
    ['Ines', beds, 'see'],
    ['Ines', alike, 'see', 'design'],
    ['Maren', alike, 'see'],
    ['Ada', beds, 'see'],
  ]);
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) SELECT 'G' || n, 'Tree ' || n, 'Nursery', 20 FROM generate_series(1, 20) n`,
  );
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('G50', 'Tree 3', 'Fern house', 20), ('G51', 'Tree 3', 'Fern house', 20)`,
  );
  await world.sql(`UPDATE records.beds SET removed_at = now() WHERE code = 'G51'`);
  await world.sql(
    `INSERT INTO records.trees (name, count) SELECT 'Tree ' || n, CASE WHEN n > 10 THEN NULL ELSE n % 4 END FROM generate_series(1, 12) n`,
  );
});

const tree = async (name: string) =>
  String((await world.sql(`SELECT id FROM records.trees WHERE name = $1`, [name]))[0]?.['id']);
const names = async (who: string, key: string, of: string, via: string) =>
  (await must(openRecords(as(who), key, { sort: 'number', of, via }))).rows.map(({ cells }) =>
    key === 'beds' ? cells['cbedcode'] : cells['ctrname'],
  );

describe('records with the same value', () => {
  it('are listed from both sides, without those removed and without the record itself', async () => {
    expect(await names('Ines', 'beds', await tree('Tree 3'), 'mbeds')).toEqual(['G3', 'G50']);
    const bed = String((await world.sql(`SELECT id FROM records.beds WHERE code = 'G50'`))[0]?.['id']);
    expect(await names('Ines', 'trees', bed, 'mbeds-back')).toEqual(['Tree 3']);
    expect(await names('Ines', 'trees', await tree('Tree 1'), 'mcount')).toEqual(['Tree 5', 'Tree 9']);
    // Nothing is the same as nothing.
    expect(await names('Ines', 'trees', await tree('Tree 11'), 'mcount')).toEqual([]);
  });

  it('stand beside the record, each relation with what it is by', async () => {
    const one = await must(openRecord(as('Ines'), 'trees', await tree('Tree 3')));
    expect(one.related.map(({ table, via, same, total }) => [table.key, via, same, total])).toEqual([
      ['beds', 'mbeds', 'ctrname', 2],
      ['trees', 'mcount', 'ctrcount', 1],
    ]);
    const bed = await must(openRecordPage(as('Ines'), 'beds', 'B-2026-0003', { sort: '-number' }));
    expect(bed.related.map(({ table, column, via }) => [table.key, column, via])).toEqual([
      ['trees', 'ctrbed', 'ctrbed'],
      ['trees', 'ctrname', 'mbeds-back'],
    ]);
  });

  it('are put together by a column as others are', async () => {
    const { groups } = await must(
      readGroups(as('Ines'), 'beds', {
        find: '',
        where: '',
        by: 'section',
        of: await tree('Tree 3'),
        via: 'mbeds',
      }),
    );
    expect(groups.map(({ label, records }) => [label, records])).toEqual([
      ['Fern house', 1],
      ['Nursery', 1],
    ]);
  });

  it('are shown to those alone who see both tables', async () => {
    const one = await must(openRecord(as('Maren'), 'trees', await tree('Tree 3')));
    expect(one.related.map(({ table }) => table.key)).toEqual(['trees']);
    expect(
      await refusal(
        openRecords(as('Maren'), 'beds', { sort: 'number', of: await tree('Tree 3'), via: 'mbeds' }),
      ),
    ).toMatchObject({
      kind: 'not-found',
    });
    // Whoever does not see the trees learns nothing of them by asking for the beds of one.
    expect(
      await refusal(
        openRecords(as('Ada'), 'beds', { sort: 'number', of: await tree('Tree 3'), via: 'mbeds' }),
      ),
    ).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'unknown-column' }],
    });
  });
});

describe('what is proposed', () => {
  it('counts what two tables have in common, and is for those who design the one', async () => {
    const { matches, left } = await must(findMatches(as('Ines'), 'trees'));
    expect(matches).toEqual([
      { from: 'ctrname', table: beds.id, to: 'cbedname', found: 12, of: 12, turned: false },
    ]);
    expect(left).toEqual([]);
    expect(await refusal(findMatches(as('Maren'), 'trees'))).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(findMatches(as('Ada'), 'trees'))).toMatchObject({ kind: 'not-found' });
  });
});
