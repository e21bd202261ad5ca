import { describe, expect, it } from 'vitest';
import { foundColumn as column, foundTable as table } from '../../../tests/support/found';
import { followingSentences } from '../wording/source-sentence';
import { followingOf } from './follow';
import type { FoundColumn, FoundTable } from './found-table';
import { planLinks } from './plan-link';

describe('a linked table that has become another', () => {
  const gardens = table('gardens', [
    column('code', 'text', { required: true }),
    column('garden_name', 'text'),
  ]);
  const before = [
    column('lot_no', 'text', { required: true }),
    column('garden', 'text'),
    column('kind', 'x.kind', { labels: ['seed', 'spore'] }),
    column('grams', 'numeric(8,2)', { required: true }),
    column('old', 'text', { required: true }),
  ];
  const refers = { references: [{ columns: ['garden'], schema: 'public', table: 'gardens', to: ['code'] }] };
  const linked = planLinks([gardens, table('lots', before, refers)], [], [], (name) => name).map((plan) => ({
    table: plan.table,
    mapping: plan.mapping,
  }));
  const now = (columns: readonly FoundColumn[], more: Partial<FoundTable> = {}) =>
    followingOf(
      table('lots', columns, { ...refers, ...more }),
      linked,
      linked.map((one) => one.table),
    );

  it('is followed: what it gained comes, what it lost stays as it was, choices grow', () => {
    const [lotNo, garden, , grams] = before as [FoundColumn, FoundColumn, FoundColumn, FoundColumn];
    const change =
      now([
        lotNo,
        column('weighed_on', 'date', { required: true }),
        garden,
        column('kind', 'x.kind', { labels: ['seed', 'spore', 'bulb'] }),
        grams,
      ]) ?? expect.fail('nothing is different');
    expect(change.changes.map((one) => [one.t, 'column' in one ? one.column.key : ''])).toEqual([
      ['loosen-column', 'old'],
      ['change-choices', 'kind'],
      ['add-column', 'weighed_on'],
    ]);
    expect(change.mapping.columns.map(({ name, refers: known }) => [name, known !== null])).toEqual([
      ['lot_no', false],
      ['garden', true],
      ['kind', false],
      ['grams', false],
      ['weighed_on', false],
    ]);
    expect([change.gained[0]?.required, change.keyLost, change.rights]).toEqual([false, false, false]);
    expect(followingSentences(change, 'Seed exchange')).toEqual([
      '“Weighed on” is there now, and not here yet',
      '“Old” is not there any more: its last values stay here',
      '“Kind” may be “bulb” as well',
    ]);
  });

  it('is nothing new when it is the same, in whatever order', () => {
    expect(now([...before].reverse(), { primaryKey: ['lot_no'] })).toBeNull();
    expect(followingOf(table('elsewhere', before), linked, [])).toBeNull();
  });

  it('is not followed in a kind, nor without what told its records apart, and says what may be done now', () => {
    const kinds =
      now(before.map((one) => (one.name === 'grams' ? column('grams', 'text') : one))) ??
      expect.fail('nothing is different');
    expect([
      kinds.differs.map(({ key }) => key),
      kinds.changes,
      kinds.mapping.columns.find(({ name }) => name === 'grams')?.type,
    ]).toEqual([['grams'], [], 'numeric(8,2)']);
    const keyless =
      now(
        before.map((one) => (one.name === 'lot_no' ? column('id', 'integer', { required: true }) : one)),
        { primaryKey: ['id'] },
      ) ?? expect.fail('nothing is different');
    expect([keyless.keyLost, followingSentences(keyless, 'X')[0]]).toEqual([
      true,
      'What told its records apart has changed: end the link, and link it again',
    ]);
    const rights = now(before, { mayAdd: false, mayChange: false }) ?? expect.fail('nothing is different');
    expect([rights.rights, rights.mapping.adds, followingSentences(rights, 'Seed exchange')]).toEqual([
      true,
      false,
      [
        'What may be done is another now: Its records are looked at here and kept in Seed exchange; they are not changed from here',
      ],
    ]);
  });
});
