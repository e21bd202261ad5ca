import { describe, expect, it } from 'vitest';
import { setMatch, dropMatch, takeOut } from './edit';
import { applyChange } from './change';
import { comparedPairs, likelyMatches, type PairCount } from './likely-matches';
import { matchable, matchIssues, matchVia, matchedWith } from './matches';
import { plainColumn, plainTable, type Column, type ColumnKind, type Table } from './model';
import { rebased } from './rebase';
import { planRedesign } from './redesign';

const column = (id: string, kind: ColumnKind = 'text', more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id,
  kind,
  ...more,
});
const table = (id: string, columns: Column[], more: Partial<Table> = {}): Table => ({
  ...plainTable,
  id,
  key: id,
  label: id,
  prefix: 'X',
  columns,
  ...more,
});
const match = { id: 'm1', from: 'name', table: 'lots', to: 'taxon' };
const taxa = table('taxa', [column('name'), column('count', 'whole'), column('seen', 'date')], {
  matches: [match],
});
const lots = table('lots', [column('taxon'), column('mail', 'e-mail'), column('weight', 'decimal')]);
const seen = new Map([taxa, lots].map((one) => [one.id, one]));

describe('tables related by a value', () => {
  it('are seen from both sides, each by its own column', () => {
    const said = (of: Table) =>
      matchedWith(of, seen).map((one) => [one.via, one.from.id, one.table.id, one.to.id]);
    expect(said(taxa)).toEqual([['m1', 'name', 'lots', 'taxon']]);
    expect(said(lots)).toEqual([['m1-back', 'taxon', 'taxa', 'name']]);
  });

  it('are found by what an address says, for the table that is listed alone', () => {
    expect(matchVia(lots, 'm1', seen)).toMatchObject({
      column: { id: 'taxon' },
      of: { id: 'taxa' },
      holding: { id: 'name' },
    });
    expect(matchVia(taxa, 'm1-back', seen)).toMatchObject({
      column: { id: 'name' },
      of: { id: 'lots' },
      holding: { id: 'taxon' },
    });
    expect(matchVia(taxa, 'm1', seen)).toBeNull();
    expect(matchVia(lots, 'rows', seen)).toBeNull();
  });

  it('are not shown to who does not see the other, nor once a column is gone or holds something else', () => {
    expect(matchedWith(taxa, new Map([[taxa.id, taxa]]))).toEqual([]);
    const without = { ...lots, columns: [column('mail', 'e-mail')] };
    expect(matchedWith(taxa, new Map(seen).set('lots', without))).toEqual([]);
    const dated = { ...lots, columns: [column('taxon', 'date')] };
    expect(matchedWith(taxa, new Map(seen).set('lots', dated))).toEqual([]);
  });

  it('may be one table, whose column is looked at from either side', () => {
    const same = { ...taxa, matches: [{ ...match, table: 'taxa', to: 'name' }] };
    expect(matchedWith(same, new Map([[same.id, same]])).map(({ via }) => via)).toEqual(['m1']);
    const two = table('taxa', [column('code'), column('parent')], {
      matches: [{ id: 'm2', from: 'code', table: 'taxa', to: 'parent' }],
    });
    expect(matchedWith(two, new Map([[two.id, two]])).map(({ via, from }) => [via, from.id])).toEqual([
      ['m2', 'code'],
      ['m2-back', 'parent'],
    ]);
  });

  it('need columns that can hold the same', () => {
    const fits = (one: Column, other: Column): boolean => matchable(table('t', [one]), other).length === 1;
    expect(fits(column('a', 'e-mail'), column('b', 'text'))).toBe(true);
    expect(fits(column('a', 'phone'), column('b', 'web-address'))).toBe(true);
    expect(fits(column('a', 'money'), column('b', 'decimal'))).toBe(true);
    expect(fits(column('a', 'date'), column('b', 'date'))).toBe(true);
    expect(fits(column('a', 'whole'), column('b', 'decimal'))).toBe(false);
    expect(fits(column('a', 'yes-no'), column('b', 'yes-no'))).toBe(false);
    expect(fits(column('a', 'choice'), column('b', 'choice'))).toBe(false);
    expect(fits(column('a', 'text', { formula: '"x"' }), column('b', 'text'))).toBe(false);
    const to = (target: string) => column('r', 'reference', { target });
    expect([fits(to('beds'), to('beds')), fits(to('beds'), to('taxa'))]).toEqual([true, false]);
  });

  it('is refused where it is begun and not finished, and left alone where it was there before', () => {
    const others = new Map([[lots.id, lots]]);
    const broken = { ...taxa, matches: [{ ...match, to: '' }] };
    expect(matchIssues(broken, taxa, others).map(({ code, path }) => [code, ...path])).toEqual([
      ['match-unfinished', 'matches', 'm1'],
    ]);
    expect(matchIssues(taxa, null, others)).toEqual([]);
    expect(matchIssues(taxa, null, new Map()).length).toBe(1);
    expect(matchIssues(taxa, taxa, new Map())).toEqual([]);
  });
});

describe('a change of what a table is related to', () => {
  const other = { ...match, id: 'm2', to: 'mail' };
  it('is taken up by dropping what is no more wanted and adding what is', () => {
    const wanted = setMatch(dropMatch(taxa, 'm1'), other);
    const changes = planRedesign(taxa, wanted);
    expect(changes.map((change) => change.t)).toEqual(['drop-match', 'add-match']);
    expect(changes.reduce(applyChange, taxa).matches).toEqual([other]);
    const moved = setMatch(taxa, { ...match, to: 'mail' });
    expect(planRedesign(taxa, moved).reduce(applyChange, taxa).matches).toEqual(moved.matches);
    expect(planRedesign(taxa, taxa)).toEqual([]);
  });

  it('goes with its column', () => {
    expect(takeOut(taxa, 'name', true).matches).toEqual([]);
    expect(takeOut(taxa, 'count', true).matches).toEqual([match]);
    const own = { ...taxa, matches: [{ ...match, table: 'taxa', to: 'seen' }] };
    expect(takeOut(own, 'seen', true).matches).toEqual([]);
    expect(takeOut({ ...taxa, matches: [{ ...match, to: 'count' }] }, 'count', true).matches).toHaveLength(1);
  });

  it('is kept beside what somebody else added', () => {
    const base = { ...taxa, matches: [] };
    expect(
      rebased(base, setMatch(base, match), setMatch(base, other))
        .matches.map(({ id }) => id)
        .sort(),
    ).toEqual(['m1', 'm2']);
  });
});

describe('what may be related', () => {
  const pairs = (one: Table, two: Table) =>
    comparedPairs(one, two).map(({ from, to }) => `${from.id} ${to.id}`);
  it('are texts, and whole numbers that name records; nothing else', () => {
    const bare = { ...taxa, matches: [] };
    expect(pairs(bare, lots)).toEqual(['name taxon', 'name mail']);
    const numbered = table('n', [column('no', 'whole', { unique: true }), column('many', 'whole')]);
    expect(pairs(bare, numbered)).toEqual(['count no']);
    expect(pairs(numbered, bare)).toEqual(['no count']);
    expect(
      pairs(
        table('t', [column('w', 'decimal'), column('d', 'date')]),
        table('u', [column('x', 'decimal'), column('e', 'date')]),
      ),
    ).toEqual([]);
    expect(pairs(bare, bare)).toEqual([]);
  });

  it('hold mostly the same, and enough of it', () => {
    const count = (of: number, found: number, turned = false): PairCount => ({
      from: column('name'),
      to: column('taxon'),
      of,
      found,
      turned,
    });
    const likely = (...all: PairCount[]) =>
      likelyMatches([{ other: 'lots', pairs: all }]).map(({ found, of }) => [found, of]);
    expect(likely(count(9, 9))).toEqual([]);
    expect(likely(count(10, 10))).toEqual([[10, 10]]);
    expect(likely(count(100, 79))).toEqual([]);
    expect(likely(count(100, 80))).toEqual([[80, 100]]);
    // One line for a pair that was looked at both ways: the way that found more.
    expect(likely(count(40, 40, true), count(255, 254))).toEqual([[254, 255]]);
  });
});
