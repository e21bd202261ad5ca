import { beforeAll, describe, expect, it } from 'vitest';
import type { View } from '../../src/core/record/view';
import { keepLook, keepView, removeView } from '../../src/use-cases/records/keep-view';
import { openTable } from '../../src/use-cases/records/open-table';
import { beds } from '../../demo/tables';
import { personNamed } from '../../demo/people';
import { as, must, newId, refusal, useWorld } from '../support/world';
import { onlyGrants, trees } from '../support/trees';

/** How tables are looked at: by one person, and under names that are for others as well. */
const world = useWorld(undefined, [beds, trees]);
const group = newId();
beforeAll(async () => {
  await onlyGrants(world, [
    ['Ines', trees, 'see', 'design'],
    ['Ines', beds, 'see'],
    ['Maren', trees, 'see'],
    ['Ada', trees, 'see'],
  ]);
  await world.sql(`INSERT INTO slate.person_group (id, label) VALUES ($1, 'Plant health')`, [group]);
  await world.sql(`INSERT INTO slate.group_member (group_id, person_id) VALUES ($1, $2)`, [
    group,
    personNamed('Ada').id,
  ]);
  await world.sql(`INSERT INTO records.trees (name, count) VALUES ('Ash', 3), ('Elm', 9)`);
});

const view = (label: string, more: Partial<View> = {}): View => ({
  label,
  for: { everybody: false, groups: [], people: [] },
  isFirst: false,
  design: {
    find: '',
    where: 'count > 5',
    sort: 'name',
    columns: 'name,count',
    group: '',
    layout: 'grid',
    day: '',
    asks: [],
  },
  ...more,
});
const keep = (name: string, id: string, one: View, version: number | null = null) =>
  keepView(as(name), 'trees', id, { version, view: one });
const seenBy = async (name: string) =>
  (await must(openTable(as(name), 'trees', {}))).work.views.map(({ label }) => label);

describe('a view', () => {
  const [mine, ours] = [newId(), newId()];
  it('is for its owner, and for those it is said to be for', async () => {
    await must(keep('Maren', mine, view('Many')));
    await must(keep('Maren', ours, view('Ours', { for: { everybody: false, groups: [group], people: [] } })));
    expect([await seenBy('Maren'), await seenBy('Ada')]).toEqual([['Many', 'Ours'], ['Ours']]);
    // Those who design the table see them all, to keep them in order.
    expect(await seenBy('Ines')).toEqual(['Many', 'Ours']);
    const opened = await must(openTable(as('Ada'), 'trees', { view: ours }));
    expect(opened.records?.rows.map(({ cells }) => cells['ctrname'])).toEqual(['Elm']);
    expect(opened.query).toMatchObject({ view: ours, columns: 'name,count' });
    expect((await must(openTable(as('Ada'), 'trees', { view: mine }))).query.view).toBeNull();
  });

  it('is changed by its owner, from the version there is, and by those who design the table', async () => {
    expect(await refusal(keep('Ada', ours, view('Hers'), 1))).toEqual({ kind: 'forbidden', why: 'own-only' });
    await must(
      keep('Maren', ours, view('Ours now', { for: { everybody: true, groups: [], people: [] } }), 1),
    );
    expect(await refusal(keep('Maren', ours, view('Later'), 1))).toMatchObject({ why: 'view-changed' });
    expect(await refusal(removeView(as('Ada'), 'trees', ours))).toEqual({
      kind: 'forbidden',
      why: 'own-only',
    });
    expect(await refusal(keep('Maren', mine, view('First', { isFirst: true }), 1))).toEqual({
      kind: 'forbidden',
      why: 'design-table',
    });
    expect(await refusal(keep('Osei', newId(), view('x')))).toEqual({ kind: 'not-found', what: 'table' });
    expect(
      await refusal(
        keep('Ada', newId(), view('x', { for: { everybody: false, groups: [newId()], people: [] } })),
      ),
    ).toMatchObject({ kind: 'invalid' });
  });

  it('may be the first that is shown, and only one is', async () => {
    const [one, other] = [newId(), newId()];
    const forAll = { for: { everybody: true, groups: [], people: [] }, isFirst: true };
    await must(keep('Ines', one, view('One', forAll)));
    await must(keep('Ines', other, view('Other', forAll)));
    expect((await must(openTable(as('Ada'), 'trees', {}))).query.view).toBe(other);
    expect((await must(openTable(as('Ada'), 'trees', { sort: 'name' }))).query.view).toBeNull();
    const { views } = await must(removeView(as('Ines'), 'trees', other));
    expect(views.map(({ label, isFirst }) => [label, isFirst])).toEqual([
      ['Many', false],
      ['One', false],
      ['Ours now', false],
    ]);
  });

  it('asks for values before anything is read', async () => {
    const id = newId();
    await must(keep('Maren', id, view('Asks', { design: { ...view('').design, asks: ['count'] } })));
    const opened = await must(openTable(as('Maren'), 'trees', { view: id }));
    expect([opened.records, opened.picked?.picks[0]?.left]).toEqual([null, 'count']);
    const told = await must(openTable(as('Maren'), 'trees', { view: id, where: 'count > 2' }));
    expect(told.records?.total).toBe(2);
  });
});

it('keeps how one person has the columns, for that person alone', async () => {
  await must(
    keepLook(as('Maren'), 'trees', { columns: ['count', 'name'], widths: { name: 300 }, pinned: 1 }),
  );
  await must(keepLook(as('Maren'), 'trees', { columns: ['count'], widths: { name: 300 }, pinned: 1 }));
  const opened = await must(openTable(as('Maren'), 'trees', {}));
  expect([opened.query.columns, opened.work.look.widths]).toEqual(['count', { name: 300 }]);
  expect((await must(openTable(as('Ada'), 'trees', {}))).query.columns).toBe('');
});
