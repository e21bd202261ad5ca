import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { directoryPlan } from './directory-plan';
import type { DirectoryRow } from './directory-rows';
import { following, type Member } from './following';
import { colleague as one, listed as row } from '../../../tests/support/listed-people';

const all = (...who: string[]): Map<string, Member> =>
  new Map(who.map((id) => [id, { entry: '', ended: false }]));
const ids = (some: readonly { readonly id: string }[]): string[] => some.map(({ id }) => id);
const people = [one('ada'), one('bo'), one('cy'), one('di')];

describe('following a list of people', () => {
  it('lets those leave who came by it and are not in it any more, but nobody by their own hand', () => {
    const found = following([row('ada')], people, [], {
      members: all('ada', 'bo', 'di'),
      namedBy: 'di',
    });
    expect(ids(found.leaving)).toEqual(['bo']);
    expect(ids(found.plan.missing)).toEqual(['bo', 'cy', 'di']);
  });

  it('leaves out what is wrong, and nobody it is about is thought to have left', () => {
    const found = following(
      [
        row('ada', { manager: 'bo@here.example', place: 'Nursery' }),
        row('bo', { name: '' }),
        row('cy', { manager: 'nobody@here.example', place: 'Nursery' }),
        row('eve', { manager: 'fay@here.example' }),
        row('fay', { name: 'F'.repeat(300) }),
      ],
      people,
      [],
      { members: all('ada', 'bo', 'cy', 'di'), namedBy: 'x' },
    );
    expect(found.plan.issues.map(({ line, why }) => [line, why])).toEqual([
      [2, 'no-name'],
      [3, 'manager-unknown'],
      [5, 'too-long'],
    ]);
    expect(found.plan.change.map(({ id, manager, place }) => [id, manager, place])).toEqual([
      ['ada', 'bo@here.example', 'Nursery'],
      ['cy', null, 'Nursery'],
    ]);
    // Her manager is left out, so she comes without.
    expect(found.plan.add.map(({ email, manager }) => [email, manager])).toEqual([
      ['eve@here.example', null],
    ]);
    expect(ids(found.leaving)).toEqual(['di']);
  });

  it('lets nobody leave while a line does not say whom it is about', () => {
    const rows = [row('ada'), row('bo', { email: 'bo at here' })];
    expect(following(rows, people, [], { members: all('bo', 'cy'), namedBy: 'x' }).leaving).toEqual([]);
  });

  it('is held where many leave at once', () => {
    const many = Array.from({ length: 50 }, (_, i) => one(`p${i}`));
    const isMuch = (left: number): boolean =>
      following(
        many.slice(left).map(({ id }) => row(id)),
        many,
        [],
        { members: all(...ids(many)), namedBy: 'x' },
      ).isMuch;
    expect([3, 5, 6].map(isMuch)).toEqual([false, false, true]);
  });

  it('neither lets whoever has another address leave nor lets in whoever has that one', () => {
    const rows = [row('ada', { entry: '1' }), row('bo.married', { entry: '2' }), row('eve', { entry: '3' })];
    const members = new Map([
      ['ada', { entry: '1', ended: false }],
      ['bo', { entry: '2', ended: false }],
      ['cy', { entry: '', ended: false }],
    ]);
    const found = following(rows, people, [], { members, namedBy: 'x' });
    expect(found.plan.issues).toEqual([{ line: 2, why: 'other-address', value: 'bo@here.example' }]);
    expect(found.plan.add.map(({ email }) => email)).toEqual(['eve@here.example']);
    expect(ids(found.leaving)).toEqual(['cy']);
    expect(found.rows.map(({ entry }) => entry)).toEqual(['1', '3']);
  });

  it('lets in again whom it let out, but nobody who was let out by hand', () => {
    const out = [one('ada', { ended: true }), one('bo', { ended: true }), one('cy', { ended: true })];
    const members = new Map([
      ['ada', { entry: '', ended: true }],
      ['bo', { entry: '', ended: false }],
    ]);
    const found = following([row('ada'), row('bo'), row('cy')], out, [], { members, namedBy: 'x' });
    expect(found.plan.change.map(({ id, back }) => [id, back])).toEqual([['ada', true]]);
    expect(found.plan.issues.map(({ line, why, value }) => [line, why, value])).toEqual([
      [2, 'has-left', 'BO'],
      [3, 'has-left', 'CY'],
    ]);
  });

  it('puts nobody above themselves', () => {
    const under = [one('ada', { manager: 'bo' }), one('bo', { manager: 'cy' }), one('cy'), one('di')];
    const rows = [row('cy', { manager: 'ada@here.example' }), row('di', { manager: 'ada@here.example' })];
    expect(directoryPlan(rows, under, []).issues).toEqual([
      { line: 1, why: 'manager-circle', value: 'ada@here.example' },
    ]);
    // A list that turns it all round is none.
    const turned = [...rows, row('ada', { manager: '' })];
    expect(directoryPlan(turned, under, []).issues).toEqual([]);
  });

  it('finds a circle of three at the end of a line, and whoever only leads to it is not in it', () => {
    const under = (who: string, manager: string) => row(who, { manager: `${manager}@here.example` });
    const rows = [under('ada', 'bo'), under('bo', 'cy'), under('cy', 'di'), under('di', 'bo')];
    expect(directoryPlan(rows, people, []).issues.map(({ line }) => line)).toEqual([2, 3, 4]);
  });

  it('is held in time that grows with its length, however long its lines and however many its groups', () => {
    const list = (length: number): DirectoryRow[] =>
      Array.from({ length }, (_, i) =>
        row(`p${i}`, { manager: i === 0 ? '' : `p${i - 1}@here.example`, groups: [`Group ${i}`] }),
      );
    const plan = directoryPlan(list(5_000), [], []);
    expect([plan.issues.length, plan.groups.length, plan.add.length]).toEqual([0, 5_000, 5_000]);
  });

  it('law: whatever the list, what is carried out of it is without faults, and whoever leaves is not in it', () => {
    const who = fc.constantFrom('ada', 'bo', 'cy', 'di', 'eve', 'fay', 'no one');
    const line = fc.record(
      { who, name: fc.constantFrom('N', ''), manager: fc.oneof(who, fc.constant('')), place: fc.string() },
      { requiredKeys: ['who', 'name'] },
    );
    fc.assert(
      fc.property(fc.array(line, { maxLength: 8 }), (lines) => {
        const rows = lines.map(({ who: id, name, manager, place }) => ({
          email: `${id}@here.example`,
          name,
          ...(manager !== undefined && { manager: manager === '' ? '' : `${manager}@here.example` }),
          ...(place !== undefined && { place }),
        }));
        const { plan, leaving } = following(rows, people, [], {
          members: all('ada', 'bo', 'cy', 'di'),
          namedBy: 'ada',
        });
        const named = new Set(rows.map(({ email }) => email));
        for (const { id } of leaving) {
          expect(named.has(`${id}@here.example`)).toBe(false);
          expect(id).not.toBe('ada');
        }
        const here = new Set([...people, ...plan.add].map(({ email }) => email));
        for (const { email, manager } of [...plan.add, ...plan.change]) {
          expect(manager).not.toBe(email);
          expect(manager === null || here.has(manager)).toBe(true);
        }
      }),
    );
  });
});
