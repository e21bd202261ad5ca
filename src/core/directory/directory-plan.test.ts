import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Group } from '../catalogue/catalogue';
import { directoryPlan } from './directory-plan';
import { directoryRows } from './directory-rows';
import { colleague as one, listed as row } from '../../../tests/support/listed-people';

const people = [
  one('ada', { manager: 'bo' }),
  one('bo'),
  one('cy', { ended: true }),
  one('link', { outside: true }),
];
const groups: Group[] = [{ id: 'g', label: 'Glasshouses', people: ['ada', 'bo'], groups: [] }];

describe('a list of people', () => {
  it('is read by its headings, whatever their case and order, and what they do not name stays', () => {
    const { rows, unread, missing } = directoryRows([
      ['Surname', 'E-MAIL', 'First name', 'Shoe size', 'Groups'],
      ['Quist', ' Ada@here.example ', 'Ada', '38', 'Plant health; Leads;'],
      ['', '', '', '', ''],
    ]);
    expect(rows).toEqual([
      { email: 'Ada@here.example', name: 'Ada Quist', groups: ['Plant health', 'Leads'] },
    ]);
    expect([unread, missing]).toEqual([['Shoe size'], []]);
    expect(directoryRows([['Team'], ['x']]).missing).toEqual(['email', 'name']);
    expect(directoryRows([]).rows).toEqual([]);
  });

  it('tells who is new, who is known otherwise, who is back, and who is not in it', () => {
    const plan = directoryPlan(
      [
        row('ADA', { name: 'Ada Q', manager: '', place: 'Fern house' }),
        row('cy'),
        row('di', { manager: 'ada@here.example' }),
      ],
      people,
      groups,
    );
    expect(plan.issues).toEqual([]);
    expect(plan.add.map(({ email, manager }) => [email, manager])).toEqual([
      ['di@here.example', 'ada@here.example'],
    ]);
    expect(plan.change.map(({ id, back, parts }) => [id, back, parts])).toEqual([
      [
        'ada',
        false,
        [
          { what: 'name', was: 'ADA', now: 'Ada Q' },
          { what: 'place', was: '', now: 'Fern house' },
          { what: 'manager', was: 'BO', now: '' },
        ],
      ],
      ['cy', true, []],
    ]);
    expect(plan.missing).toEqual([{ id: 'bo', name: 'BO' }]);
  });

  it('says at which line something is wrong', () => {
    const plan = directoryPlan(
      [
        row('ada', { email: 'ada' }),
        row('bo', { name: '' }),
        row('bo'),
        row('di', { manager: 'cy@here.example' }),
        row('ed', { manager: 'ED@here.example' }),
        row('fo', { name: 'F'.repeat(201), groups: ['g'.repeat(200), 'h'.repeat(201)] }),
        row('g'.repeat(300), { name: 'G' }),
      ],
      people,
      [],
    );
    expect(plan.issues.map(({ line, why }) => [line, why])).toEqual([
      [1, 'no-email'],
      [2, 'no-name'],
      [3, 'twice'],
      [4, 'manager-unknown'],
      [5, 'own-manager'],
      [6, 'too-long'],
      [6, 'too-long'],
      [7, 'no-email'],
    ]);
  });

  it('moves those of the list in and out of the groups it names, and nobody else', () => {
    const plan = directoryPlan(
      [row('ada', { groups: [] }), row('di', { groups: ['GLASSHOUSES', 'Leads'] })],
      people,
      groups,
    );
    expect(plan.groups).toEqual([
      {
        id: 'g',
        label: 'Glasshouses',
        join: [{ email: 'di@here.example', name: 'DI' }],
        leave: [{ email: 'ada@here.example', name: 'ADA' }],
      },
      { id: null, label: 'Leads', join: [{ email: 'di@here.example', name: 'DI' }], leave: [] },
    ]);
    // Bo is not in the list; a group nobody names stays as it is.
    expect(directoryPlan([row('ada', { groups: [] })], people, groups).groups).toEqual([]);
  });

  it('law: what is here already, as a list, changes nothing', () => {
    const someone = fc.record({ id: fc.uuid(), place: fc.string(), ended: fc.boolean() });
    fc.assert(
      fc.property(fc.uniqueArray(someone, { selector: ({ id }) => id, maxLength: 12 }), (made) => {
        const all = made.map(({ id, place, ended }, i) =>
          one(id, {
            place,
            ended,
            manager: ended || i === 0 || made[0]?.ended === true ? null : (made[0]?.id ?? null),
          }),
        );
        const here = all.filter(({ ended }) => !ended);
        const set: Group[] = [{ id: 'g', label: 'All', people: here.map(({ id }) => id), groups: [] }];
        const rows = here.map(({ email, name, place, manager }) => ({
          email,
          name,
          place,
          manager: all.find(({ id }) => id === manager)?.email ?? '',
          groups: ['all'],
        }));
        const plan = directoryPlan(rows, all, set);
        expect([plan.issues, plan.add, plan.change, plan.groups, plan.missing, plan.same]).toEqual([
          [],
          [],
          [],
          [],
          [],
          here.length,
        ]);
      }),
    );
  });
});
