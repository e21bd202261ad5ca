import { describe, expect, it } from 'vitest';
import { decided, givesAlike, type HitPolicy, type Rule, type RuleTable } from './rules';
import { asksNobody, ruledSteps } from './ruled-steps';

const row = (id: string, people: string[], more: Partial<Rule> = {}, days?: number): Rule => ({
  id,
  cells: [],
  gives: [{ step: 'st', people, ...(days !== undefined && { days }) }],
  ...more,
});
const rows = [row('ra', ['ada']), row('rb', ['ben'], { weight: 2 }), row('rc', ['ben'], { weight: 1 })];
const counts = (hit: HitPolicy, fitting: Rule[]): string => {
  const told = decided({ hit }, fitting);
  return told.t === 'nothing' ? told.t : `${told.t} ${told.rows.map(({ id }) => id).join(' ')}`;
};

describe('which rows count', () => {
  it.each([
    ['U', [0], 'decided ra'],
    ['U', [1, 2], 'several rb rc'],
    ['A', [1, 2], 'decided rb'],
    ['A', [0, 1], 'several ra rb'],
    ['P', [0, 1, 2], 'decided rb'],
    ['P', [0, 2], 'decided rc'],
    ['F', [1, 2], 'decided rb'],
    ['R', [0, 2], 'decided ra rc'],
    ['C', [], 'nothing'],
    ['U', [], 'nothing'],
  ] as const)('under %s of %j: %s', (hit, fitting, told) => {
    expect(
      counts(
        hit,
        fitting.flatMap((at) => rows[at] ?? []),
      ),
    ).toBe(told);
  });

  it('takes rows for alike that say the same in another order', () => {
    const gives = (people: string[]) => [
      { step: 'sa', people },
      { step: 'sb', people: [] },
    ];
    expect(
      givesAlike(
        row('ra', [], { gives: gives(['x', 'y']) }),
        row('rb', [], { gives: gives(['y', 'x']).reverse() }),
      ),
    ).toBe(true);
    expect(givesAlike(row('ra', ['x'], {}, 2), row('rb', ['x'], {}, 3))).toBe(false);
  });
});

describe('steps by rules', () => {
  const table = (id: string, more: Partial<RuleTable>): RuleTable => ({
    id,
    label: id,
    hit: 'C',
    conditions: [],
    asks: ['st'],
    days: [],
    rows,
    ...more,
  });
  const step = { id: 'st', people: ['zoe'], groups: ['g'], manager: true as const, within: 5 };
  const other = { id: 'so', people: ['zoe'] };

  it('ask whom the rows that count say, and nobody of their own', () => {
    const [asked, same] = ruledSteps([step, other], [table('t', {})], { t: ['ra', 'rc'] });
    expect(asked).toEqual({ id: 'st', people: ['ada', 'ben'], within: 5 });
    expect(same).toBe(other);
  });

  it('ask nobody by themselves where one of their tables does not say', () => {
    const tables = [table('t', {}), table('u', {})];
    expect(ruledSteps([step], tables, { t: ['ra'] })[0]).toEqual({
      id: 'st',
      people: [],
      within: 5,
      undecided: 'u',
    });
    expect(asksNobody(tables, { t: ['ra'] }, 'st')).toBe(false);
  });

  it('have the least of the days', () => {
    const timed = table('t', {
      asks: [],
      days: ['st'],
      rows: [row('ra', [], {}, 4), row('rb', [], {}, 3), row('rc', [])],
    });
    expect(ruledSteps([step], [timed], { t: ['ra', 'rb', 'rc'] })[0]?.within).toBe(3);
    expect(ruledSteps([step], [timed], { t: ['rc'] })[0]).toEqual(step);
  });

  it('are not asked where every row that counts says so', () => {
    const none = (id: string): Rule => ({ id, cells: [], gives: [{ step: 'st', people: [], nobody: true }] });
    const tables = [table('t', { rows: [none('ra'), none('rb'), row('rc', ['ada'])] })];
    expect(asksNobody(tables, { t: ['ra', 'rb'] }, 'st')).toBe(true);
    expect(asksNobody(tables, { t: ['ra', 'rc'] }, 'st')).toBe(false);
    expect(asksNobody(tables, {}, 'st')).toBe(false);
    expect(asksNobody(tables, { t: ['ra'] }, 'so')).toBe(false);
  });
});
