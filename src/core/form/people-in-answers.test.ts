import { expect, it } from 'vitest';
import { PERSON, senderField } from '../expression/person';
import { TEXT, type Scope } from '../expression/type';
import { peopleInAnswers } from './people-in-answers';

it('are answers and columns of what is looked up that hold a person, but not the sender', () => {
  const bed: Scope = new Map([
    ['code', { id: 'c1', type: TEXT }],
    ['lead', { id: 'c2', type: PERSON }],
  ]);
  const scope: Scope = new Map([
    ['sender', senderField],
    ['note', { id: 'q1', type: TEXT }],
    ['who', { id: 'q2', type: PERSON }],
    ['bed', { id: 'q3', type: { t: 'record', table: 'beds', fields: bed } }],
  ]);
  expect(peopleInAnswers(scope)).toEqual(['who', 'bed.lead']);
});
