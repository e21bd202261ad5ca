import { describe, expect, it } from 'vitest';
import { listRows } from './list-rows';
import { planList } from './plan-list';

describe('a list at an address', () => {
  const entries = [
    { id: 'a', name: 'Blechnora nova', range: { region: 'Isles' }, seen: 3, tags: ['x'], kind: 'fern' },
    { id: 'b', name: null, range: { region: 'Fens' }, seen: 12, tags: [], kind: 'fern', note: 'nul\u0000l' },
  ];

  it('is found wherever it lies, with the fields of all its entries', () => {
    const found = listRows({ total: 2, empty: [], page: { numbers: [1, 2, 3], names: entries } }, null);
    expect(found).toMatchObject({
      ok: true,
      value: {
        at: ['page', 'names'],
        fields: ['id', 'name', 'range.region', 'seen', 'kind', 'note'],
        manyValued: ['tags'],
      },
    });
    expect(found.ok && [...(found.value.rows[1]?.values() ?? [])]).toEqual([
      'b',
      '',
      'Fens',
      '12',
      'fern',
      'null',
    ]);
    expect(listRows({ page: { names: entries } }, ['page', 'names']).ok).toBe(true);
  });

  it('is refused when it is none, or is not where it was', () => {
    for (const answer of [null, 'x', 3, {}, [], [1, 2], { names: [] }, { names: ['a'] }])
      expect(listRows(answer, null)).toMatchObject({ ok: false, error: { code: 'no-list' } });
    expect(listRows({ list: entries }, ['names'])).toMatchObject({ ok: false, error: { code: 'no-list' } });
    expect(listRows({ list: entries }, ['constructor'])).toMatchObject({ ok: false });
  });

  it('becomes a table known by its key, in which nothing else is demanded', () => {
    const list = listRows(
      Array.from({ length: 40 }, (_, i) => ({ ...entries[0], id: `N-${i}`, seen: i })),
      null,
    );
    const plan = list.ok ? planList(list.value, 'Names', [], '01900000-0000-7000-8000-000000000001') : null;
    expect(plan?.table).toMatchObject({ key: 'names', label: 'Names' });
    expect(
      plan?.table.columns.map(({ label, kind, required, unique }) => [label, kind, required, unique]),
    ).toEqual([
      ['Id', 'text', true, true],
      ['Name', 'text', false, false],
      ['Range region', 'text', false, false],
      ['Seen', 'whole', false, false],
      ['Kind', 'text', false, false],
    ]);
    expect(plan?.mapping).toMatchObject({
      t: 'list',
      at: [],
      columns: [
        { field: 'id' },
        { field: 'name' },
        { field: 'range.region' },
        { field: 'seen' },
        { field: 'kind' },
      ],
    });
    expect(plan?.left).toEqual([{ column: 'tags', why: 'many-values', detail: '' }]);
    const alike = listRows([{ a: 1 }, { a: 1 }, { a: 1 }], null);
    expect(alike.ok && planList(alike.value, 'Alike', [], '01900000-0000-7000-8000-000000000001')).toBeNull();
  });
});
