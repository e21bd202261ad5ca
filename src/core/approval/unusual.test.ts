import { expect, it } from 'vitest';
import { noAnswers } from '../form/answers';
import { unusualOf } from './unusual';

it('is whatever wants a look of its own', () => {
  const usual = { answers: noAnswers, sentBefore: false, changes: false, said: false, digest: { beyond: 0 } };
  expect(unusualOf({ ...usual, digest: null })).toEqual(['unread']);
  expect(unusualOf(usual)).toEqual([]);
  expect(unusualOf({ ...usual, answers: { ...noAnswers, reasons: { k1: ' ' } } })).toEqual([]);
  expect(
    unusualOf({
      answers: { ...noAnswers, reasons: { k1: 'Frost' } },
      sentBefore: true,
      changes: true,
      said: true,
      digest: { beyond: 2 },
    }),
  ).toEqual(['reasons', 'figures', 'sent-again', 'change', 'said']);
});
