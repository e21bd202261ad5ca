import { describe, expect, it } from 'vitest';
import type { Directory } from './directory';
import { stepsFor, whyAsked } from './whom';

const person = (manager: string | null = null, ended = false) => ({ manager, ended, place: '' });
const directory: Directory = {
  people: new Map([
    ['maren', person('lead')],
    ['lead', person('head')],
    ['head', person()],
    ['ada', person()],
    ['pell', person()],
    ['gone', person(null, true)],
  ]),
  groups: new Map([
    ['health', { people: ['ada', 'gone'], groups: ['officers'] }],
    // Two that hold each other are gone through once.
    ['officers', { people: ['pell', 'ada'], groups: ['health'] }],
  ]),
};
const asked = (step: object, sender = 'maren') =>
  stepsFor({ steps: [{ id: 's', label: 'S', people: [], ...step }] }, sender, directory)[0]?.people;

describe('whom a step asks', () => {
  it('is whom it names, who is in its groups and in those within them, and the manager of the sender, each once', () => {
    expect(asked({ people: ['pell'], groups: ['health'], manager: true })).toEqual(['pell', 'ada', 'lead']);
    expect(asked({ manager: true }, 'lead')).toEqual(['head']);
    expect(asked({ groups: ['officers', 'health'] })).toEqual(['pell', 'ada']);
  });

  it('is whoever is so many levels above the sender, or highest where there are fewer, in no circle', () => {
    expect(asked({ manager: 2 })).toEqual(['head']);
    expect(asked({ manager: 3 })).toEqual(['head']);
    expect(asked({ manager: 3 }, 'head')).toEqual([]);
    const round: Directory = {
      ...directory,
      people: new Map([
        ['maren', person('lead')],
        ['lead', person('maren')],
      ]),
    };
    const step = { id: 's', label: 'S', people: [], manager: 3 as const };
    expect(stepsFor({ steps: [step] }, 'maren', round)[0]?.people).toEqual(['lead']);
    expect(whyAsked({ ...step, manager: 2 }, 'head', 'maren', directory, {})).toEqual({
      why: 'above',
      group: null,
    });
  });

  it('is whom the answers name as well, if they are still here', () => {
    const step = { id: 's', label: 'S', people: ['pell'], named: 'a' };
    const [found] = stepsFor({ steps: [step] }, 'maren', directory, {
      ruled: {},
      named: { s: ['ada', 'gone'], other: ['head'] },
    });
    expect(found?.people).toEqual(['pell', 'ada']);
  });

  it('has a reason, unless it is named', () => {
    const step = {
      id: 's',
      label: 'S',
      people: ['pell'],
      groups: ['health'],
      manager: true as const,
      fallback: 'head',
    };
    const why = (who: string) => whyAsked(step, who, 'maren', directory, { s: ['maren', 'pell'] });
    expect(['pell', 'maren', 'ada', 'lead', 'head', 'nobody'].map(why)).toEqual([
      null,
      { why: 'named', group: null },
      { why: 'group', group: 'health' },
      { why: 'manager', group: null },
      { why: 'fallback', group: null },
      null,
    ]);
  });

  it('is nobody where there is no manager, no such group, or whoever it was has left', () => {
    expect(asked({ manager: true }, 'head')).toEqual([]);
    expect(asked({ manager: true }, 'nobody')).toEqual([]);
    expect(asked({ groups: ['unknown'] })).toEqual([]);
    expect(asked({ people: ['gone'] })).toEqual([]);
  });
});
