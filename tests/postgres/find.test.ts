import { beforeAll, describe, expect, it } from 'vitest';
import { openRecords } from '../../src/use-cases/records/open-records';
import { readGroups } from '../../src/use-cases/records/read-groups';
import { readFacets } from '../../src/use-cases/records/read-facets';
import { dayRanges } from '../../src/core/check/day-ranges';
import { beds } from '../../demo/tables';
import { as, must, refusal, useWorld } from '../support/world';
import { onlyGrants, trees } from '../support/trees';

/** Which records are shown: conditions in FEEL, also through a reference, and what the rest has in each column. */
const world = useWorld(undefined, [beds, trees]);
beforeAll(async () => {
  await onlyGrants(world, [
    ['Ines', beds, 'see'],
    ['Ines', trees, 'see'],
    ['Maren', trees, 'see'],
  ]);
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('G1', 'One', 'Fern house', 10), ('G2', 'Two', 'Nursery', 20)`,
  );
  await world.sql(
    `INSERT INTO records.trees (name, count, seen, wild, bed)
     SELECT 'Tree ' || n, n, CASE WHEN n % 10 = 0 THEN NULL ELSE date '2026-01-01' + n * 3 END, n % 4 = 0, (SELECT id FROM records.beds WHERE code = CASE WHEN n % 3 = 0 THEN 'G1' ELSE 'G2' END)
     FROM generate_series(1, 90) n`,
  );
});

const shown = async (where: string, name = 'Ines') => {
  const { total, rows, picked } = await must(openRecords(as(name), 'trees', { sort: 'count', where }));
  return { total, first: rows[0]?.cells['ctrname'], picked };
};
const facets = async (where = '', name = 'Ines') =>
  Object.fromEntries(
    (await must(readFacets(as(name), 'trees', { find: '', where, about: false }))).facets.map(
      ({ of, counts }) => [of.label, counts.map(({ label, records }) => `${label} ${records}`)],
    ),
  );

describe('a filter', () => {
  it('shows those it holds of, also by a column of what they refer to, and is read back as picks', async () => {
    expect(await shown('count > 40 and wild = true')).toMatchObject({ total: 12, first: 'Tree 44' });
    expect(await shown('bed.section = "Fern house"')).toMatchObject({ total: 30, first: 'Tree 3' });
    expect((await shown('bed.section in ("Nursery") and seen = null')).total).toBe(6);
    expect((await shown('seen < date("2026-02-01") or count = 90')).picked).toMatchObject({ join: 'any' });
    expect((await shown('count > 3 and (wild = true or seen = null)')).picked?.groups).toHaveLength(1);
    expect((await shown('count + 1 > 3 and (wild = true or seen = null)')).picked).toBeNull();
  });

  it('finds words also in the title of what a record refers to, and only for those who see that', async () => {
    const found = async (find: string, name = 'Ines') =>
      (await must(openRecords(as(name), 'trees', { sort: 'count', find }))).total;
    expect([await found('G1'), await found('óne g1'), await found('tree g1 39')]).toEqual([30, 30, 1]);
    expect([await found('2026 jun'), await found('Two 2 May 2026'), await found('G1', 'Maren')]).toEqual([
      expect.any(Number),
      expect.any(Number),
      0,
    ]);
  });

  it('goes on page by page, and is counted up to the cap', async () => {
    const first = await must(openRecords(as('Ines'), 'trees', { sort: 'count', where: 'count <= 89' }));
    expect([first.rows.length, first.total, first.about]).toEqual([89, 89, false]);
  });

  it('is refused where it cannot be read, and names nothing that is not seen', async () => {
    for (const where of ['count +', 'count + 1', 'nothing = 1'])
      expect(await refusal(openRecords(as('Ines'), 'trees', { sort: 'number', where }))).toMatchObject({
        kind: 'invalid',
      });
    expect(
      await refusal(openRecords(as('Maren'), 'trees', { sort: 'number', where: 'bed.section = "Nursery"' })),
    ).toMatchObject({ kind: 'invalid' });
  });
});

describe('what there is to narrow down by', () => {
  it('is counted with all else that is chosen, and a column’s own values without its own choice', async () => {
    const all = await facets();
    // What has few values comes first.
    expect(Object.keys(all)[0]).toBe('Wild');
    expect(all).toEqual({
      Count: ['0 to 19 19', '20 to 39 20', '40 to 59 20', '60 to 79 20', '80 to 99 11'],
      Seen: [
        'Sep 2026 9',
        'Aug 2026 9',
        'Jul 2026 9',
        'Jun 2026 9',
        'May 2026 9',
        'Apr 2026 9',
        'Mar 2026 9',
        'Feb 2026 9',
        'Jan 2026 9',
      ],
      Wild: ['No 68', 'Yes 22'],
      'Bed › Code': ['G2 60', 'G1 30'],
    });
    const narrowed = await facets('bed.code in ("G1") and wild in (true)');
    expect([narrowed['Wild'], narrowed['Bed › Code']]).toEqual([
      ['No 23', 'Yes 7'],
      ['G2 15', 'G1 7'],
    ]);
    // Of records nobody may see, nothing is told.
    expect(Object.keys(await facets('', 'Maren'))).toEqual(['Wild', 'Count', 'Seen']);
    expect(await refusal(readFacets(as('Ada'), 'trees', { find: '', where: '', about: false }))).toEqual({
      kind: 'not-found',
      what: 'table',
    });
  });
});

describe('texts in order', () => {
  it('come as people put them, on one page and from page to page, either way', async () => {
    const wanted = ['ash 2', 'Ash 9', 'ash 10', 'Élan', 'elm', 'Zinnia 100'];
    await world.sql(`INSERT INTO records.trees (name, count) SELECT n, -1 FROM unnest($1::text[]) n`, [
      [...wanted].reverse(),
    ]);
    const names = async (sort: string, more: { after?: string; before?: string; at?: string } = {}) =>
      (await must(openRecords(as('Ines'), 'trees', { sort, where: 'count = -1', ...more }))).rows;
    const cells = (rows: Awaited<ReturnType<typeof names>>) => rows.map((row) => row.cells['ctrname']);
    const all = await names('name');
    expect(cells(all)).toEqual(wanted);
    expect(cells(await names('-name'))).toEqual([...wanted].reverse());
    const third = all[2]?.id ?? '';
    expect(cells(await names('name', { after: third }))).toEqual(wanted.slice(3));
    expect(cells(await names('name', { before: third }))).toEqual(wanted.slice(0, 2));
    // What is gone to is found whatever its case, accents and zeros.
    const first = async (at: string, sort = 'name') => cells(await names(sort, { at }))[0];
    expect([await first('ASH 009'), await first('elan'), await first('ASH 9', '-name')]).toEqual([
      'Ash 9',
      'Élan',
      'Ash 9',
    ]);
    await world.sql(`DELETE FROM records.trees WHERE count = -1`);
  });

  it('go on after the ten-thousandth number of a year', async () => {
    await world.sql(
      `INSERT INTO records.trees (name, count, number) VALUES ('Old', -2, 'TR-2026-9999'), ('New', -2, 'TR-2026-10000'), ('Last year', -2, 'TR-2025-10001')`,
    );
    const { rows } = await must(openRecords(as('Ines'), 'trees', { sort: '-number', where: 'count = -2' }));
    expect(rows.map(({ cells }) => cells['ctrname'])).toEqual(['New', 'Old', 'Last year']);
    await world.sql(`DELETE FROM records.trees WHERE count = -2`);
  });
});

describe('what is shown', () => {
  const cellsOf = async (sort: string, columns: string, name = 'Ines') => {
    const { rows } = await must(openRecords(as(name), 'trees', { sort, columns }));
    return rows.map(({ cells }) => cells);
  };

  it('is also what is reached through a reference, and can be sorted by it', async () => {
    const [first, ...rest] = await cellsOf('-bed.area,-count', 'name,bed.section,bed.area');
    expect(first).toMatchObject({ ctrname: 'Tree 89', 'bed.section': 'Nursery', 'bed.area': '20.00' });
    expect(rest.at(-1)).toMatchObject({ ctrname: 'Tree 3', 'bed.section': 'Fern house' });
    // The title of what is referred to, and going on from it.
    const half = await must(openRecords(as('Ines'), 'trees', { sort: 'bed,count' }));
    const middle = half.rows[44]?.id ?? '';
    const after = await must(openRecords(as('Ines'), 'trees', { sort: 'bed,count', after: middle }));
    expect(after.rows.map(({ id }) => id)).toEqual(half.rows.slice(45).map(({ id }) => id));
  });

  it('is nothing of what is not there, or not seen', async () => {
    for (const [asked, name] of [
      [{ sort: 'gone' }, 'Ines'],
      [{ sort: 'name', columns: 'name,gone' }, 'Ines'],
      [{ sort: 'bed.section' }, 'Maren'],
      [{ sort: 'name', columns: 'bed.section' }, 'Maren'],
    ] as const)
      expect(await refusal(openRecords(as(name), 'trees', asked))).toMatchObject({
        kind: 'invalid',
        issues: [{ code: 'unknown-column' }],
      });
  });
});

describe('groups', () => {
  const groups = async (by: string, where = '', name = 'Ines') =>
    must(readGroups(as(name), 'trees', { find: '', where, by }));

  it('put together what is alike, with what the numbers come to, and say how their records are found', async () => {
    const { groups: byBed } = await groups('bed.section', 'count <= 30');
    expect(byBed.map(({ label, records, totals }) => [label, records, totals['ctrcount']?.sum])).toEqual([
      ['Fern house', 10, '165'],
      ['Nursery', 20, '300'],
    ]);
    for (const { where, records } of byBed)
      expect((await shown(`(count <= 30) and (${where})`)).total).toBe(records);
    const { groups: wild } = await groups('wild');
    expect(wild.map(({ label, records }) => [label, records])).toEqual([
      ['No', 68],
      ['Yes', 22],
    ]);
    const { groups: months } = await groups('seen', 'count < 25');
    expect(months.map(({ label, records }) => `${label} ${records}`)).toEqual([
      'Jan 2026 9',
      'Feb 2026 9',
      'Mar 2026 4',
      'empty 2',
    ]);
    for (const { where, records } of months)
      expect((await shown(`(count < 25) and (${where})`)).total).toBe(records);
  });

  it('are also those that refer to one record', async () => {
    const { groups: beds } = await groups('bed');
    expect(beds.map(({ label, records }) => [label, records])).toEqual([
      ['G1 · One', 30],
      ['G2 · Two', 60],
    ]);
    const [first] = beds;
    const { total } = await must(
      openRecords(as('Ines'), 'trees', { sort: 'number', of: first?.of ?? '', via: 'ctrbed' }),
    );
    expect(total).toBe(30);
  });

  it('are none of what is not seen; and all together they come to what they come to', async () => {
    const hidden = readGroups(as('Maren'), 'trees', { find: '', where: '', by: 'bed.section' });
    expect(await refusal(hidden)).toMatchObject({ kind: 'invalid' });
    expect((await groups('', 'count > 80')).totals['ctrcount']).toEqual({
      sum: '855',
      mean: '85.50',
      least: '81',
      most: '90',
    });
  });
});

it('counts ranges of numbers as large as a column holds', async () => {
  await world.sql(`INSERT INTO records.trees (name, count) VALUES ('Old', 999999999999999)`);
  expect((await facets('name = "Old"'))['Count']).toEqual(['999999999999999 1']);
  await world.sql(`DELETE FROM records.trees WHERE name = 'Old'`);
});

it('reckons from today in SQL as elsewhere, and what was picked is read back so', async () => {
  await world.sql(
    `UPDATE records.trees SET seen = date '2026-11-25' - CASE count WHEN 1 THEN 40 WHEN 2 THEN 0 ELSE 2 END WHERE count IN (1, 2, 4)`,
  );
  const wednesday = { ...as('Ines'), now: new Date('2026-11-25T12:00:00Z') };
  const found = async (where: string) => {
    const { rows, picked } = await must(
      openRecords(wednesday, 'trees', { sort: 'count', where: `count in (1, 2, 4) and ${where}` }),
    );
    return { counts: rows.map(({ cells }) => cells['ctrcount']), right: picked?.picks[1]?.right };
  };
  const expected = new Map([
    ['this week', ['2', '4']],
    ['this month', ['2', '4']],
    ['last month', ['1']],
    ['this year', ['1', '2', '4']],
    ['last year', []],
    ['in the last 7 days', ['2', '4']],
    ['in the last 30 days', ['2', '4']],
    ['in the next 7 days', ['2']],
    ['in the next 30 days', ['2']],
  ]);
  for (const { words, days } of dayRanges())
    expect([words, await found(`seen between ${days.join(' and ')}`)]).toEqual([
      words,
      { counts: expected.get(words), right: days },
    ]);
  const off = 'today() - duration("P40D")';
  expect(await found(`seen = ${off}`)).toEqual({ counts: ['1'], right: [off] });
});
