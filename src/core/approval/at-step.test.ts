import { expect, it } from 'vitest';
import { atSteps } from './at-step';

const steps = [{}, {}];

it('says from its trail who approved the step it is at, and what moved nothing', () => {
  const event = (kind: string, byId: string, step: number | null) => ({ kind, byId, step });
  const trail = [
    event('send', 'sender', null),
    event('approve', 'ada', 0),
    event('send-back', 'lead', 0),
    event('send', 'sender', null),
    event('approve', 'lead', 0),
    event('hand-over', 'deputy', 0),
    event('remark', 'sender', 0),
  ];
  const approvedBefore = new Set(['lead']);
  expect(atSteps(trail, 0, steps)).toMatchObject({ approvedBefore, stays: 2 });
  expect(atSteps(trail, 1, steps)).toMatchObject({ approvedBefore, stays: 0 });
  expect([0, 1].map(atSteps(trail, 0, steps).approved)).toEqual([['lead'], []]);
  // A step beside it is approved without anybody having to look again.
  expect(atSteps(trail, 1, [{}, { beside: true }]).stays).toBe(2);
});
