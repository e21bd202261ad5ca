import { expect, it } from 'vitest';
import { eventKinds } from '../event/event';
import { deliveredWords, eventsSentence, kindWords, stoppedWords, toldWords } from './event-sentence';

const names = new Map([
  ['b', 'Beds'],
  ['t', 'Taxa'],
  ['f', 'Shift log'],
]);

it('says what an address is told, and leaves out what is gone', () => {
  const told = {
    tables: ['t', 'b', 'gone'],
    forms: ['f'],
    kinds: ['record.made', 'record.changed', 'submission.kept'] as const,
  };
  expect(eventsSentence(told, names)).toBe(
    'Records made and changed in Beds and Taxa; submissions kept of Shift log',
  );
  expect(eventsSentence({ ...told, kinds: ['submission.kept'] }, names)).toBe(
    'Submissions kept of Shift log',
  );
  expect(eventsSentence({ ...told, tables: ['gone'], forms: [] }, names)).toBe(
    'Nothing any more: what it named is gone',
  );
});

it('has words for every kind, every fault and every end', () => {
  expect(eventKinds.map(toldWords)).toEqual([
    'Record made',
    'Record changed',
    'Record removed',
    'Record brought back',
    'Records imported',
    'Submission sent',
    'Submission decided',
    'Submission withdrawn',
    'Submission kept',
  ]);
  expect(toldWords('tried')).toBe('Tried by hand');
  expect(new Set(Object.values(kindWords())).size).toBe(eventKinds.length);
  expect(deliveredWords({ status: 204, fault: null, ms: 12 })).toBe('taken in 12 ms');
  expect(deliveredWords({ status: 503, fault: 'answer', ms: 12 })).toBe('answered 503');
  expect(stoppedWords(null)).toBe('Somebody stopped it');
});
