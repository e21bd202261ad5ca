import { expect, it } from 'vitest';
import { cloudEvent, eventKinds, numberOf, type NotedEvent, type ToldEvent } from './event';

const noted: NotedEvent = {
  position: 42,
  kind: 'record.changed',
  tableId: 't',
  recordId: 'r',
  lastId: null,
  version: 3,
  formId: null,
  submissionId: null,
  byId: 'p',
  at: new Date('2026-11-23T12:00:00Z'),
  changed: ['area'],
  decision: null,
  word: null,
};
const told = (event: Partial<NotedEvent>, more: Partial<ToldEvent> = {}): ToldEvent => ({
  event: { ...noted, ...event },
  key: 'beds',
  by: 'Kofi Renwick',
  record: { id: 'r' },
  submission: null,
  ...more,
});
const origin = 'https://slate.example';

it('says where, what and about what, and orders by its place', () => {
  expect(cloudEvent(told({}), origin)).toEqual({
    specversion: '1.0',
    id: '42',
    source: 'https://slate.example/tables/beds',
    type: 'tidy-slate.record.changed',
    subject: 'r',
    time: '2026-11-23T12:00:00.000Z',
    datacontenttype: 'application/json',
    sequence: '0000000000000042',
    partitionkey: 'r',
    data: { table: 'beds', id: 'r', version: 3, changed: ['area'], by: 'Kofi Renwick', record: { id: 'r' } },
  });
});

it('says of records imported together which those are, and of a decision what it was', () => {
  expect(cloudEvent(told({ kind: 'records.imported', lastId: 's' }), origin).data).toEqual({
    table: 'beds',
    first: 'r',
    last: 's',
    by: 'Kofi Renwick',
  });
  const submission = { number: 'TR-2026-0001', state: 'waiting', record: null };
  const about = { tableId: null, formId: 'f', recordId: null, submissionId: 'x' };
  const decided = told(
    { ...about, kind: 'submission.decided', decision: 'approve', word: 'Fine' },
    { submission },
  );
  expect(cloudEvent({ ...decided, key: 'treatment' }, origin)).toMatchObject({
    source: 'https://slate.example/forms/treatment',
    subject: 'x',
    data: { form: 'treatment', id: 'x', ...submission, decision: 'approve', word: 'Fine' },
  });
  expect(
    cloudEvent(told({ ...about, kind: 'submission.sent' }, { submission }), origin).data,
  ).not.toHaveProperty('decision');
});

it('is known to people by a number', () => {
  const of = (record: ToldEvent['record'], submission: ToldEvent['submission'] = null) =>
    numberOf(
      cloudEvent(
        told(submission === null ? {} : { tableId: null, formId: 'f' }, { record, submission }),
        origin,
      ),
    );
  expect(of({ id: 'r', number: 'B-2026-0001' })).toBe('B-2026-0001');
  expect(of(null, { number: 'TR-2026-0001', state: 'kept', record: 'r' })).toBe('TR-2026-0001');
  expect(of(null)).toBe('');
});

it('law: texts of sequence are ordered as the places are', () => {
  const sequence = (position: number) => cloudEvent(told({ position }), origin).sequence;
  const places = [1, 9, 10, 99, 100, 12_345, 99_999, 100_000, 2 ** 52];
  expect(places.map(sequence)).toEqual(
    [...places]
      .sort((a, b) => a - b)
      .map(sequence)
      .sort(),
  );
  expect(new Set(eventKinds).size).toBe(eventKinds.length);
});
