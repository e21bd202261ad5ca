/** What happened, for programs that follow it. The names are those of CloudEvents types, without what stands before them. */
export const eventKinds = [
  'record.made',
  'record.changed',
  'record.removed',
  'record.restored',
  'records.imported',
  'submission.sent',
  'submission.decided',
  'submission.withdrawn',
  'submission.kept',
] as const;
export type EventKind = (typeof eventKinds)[number];

/** An event as it is noted: what it is about, and its place in the order of all. */
export interface NotedEvent {
  readonly position: number;
  readonly kind: EventKind;
  readonly tableId: string | null;
  readonly recordId: string | null;
  readonly lastId: string | null;
  readonly version: number | null;
  readonly formId: string | null;
  readonly submissionId: string | null;
  readonly byId: string | null;
  readonly at: Date;
  /** Keys of columns in which a record was changed. */
  readonly changed: readonly string[];
  /** Of a decision: what it was, and what was said. */
  readonly decision: string | null;
  readonly word: string | null;
}

/** What comes of it for whoever is told: by names and keys instead of ids. */
export interface ToldEvent {
  readonly event: NotedEvent;
  /** Of the table or form. */
  readonly key: string;
  /** The name of whoever did it. */
  readonly by: string | null;
  /** The record as it is by now, as JSON; null where it is removed, or there are several. */
  readonly record: Readonly<Record<string, unknown>> | null;
  /** The submission as it is by now. */
  readonly submission: {
    readonly number: string | null;
    readonly state: string;
    readonly record: string | null;
  } | null;
}

/** The attributes and extensions of CloudEvents 1.0 that ours have, in structured mode. */
export interface CloudEvent {
  readonly specversion: '1.0';
  readonly id: string;
  readonly source: string;
  readonly type: string;
  readonly subject: string;
  readonly time: string;
  readonly datacontenttype: 'application/json';
  /** The sequence extension: texts that are ordered as the events are. */
  readonly sequence: string;
  /** The partitioning extension: what has the same key is told in its order. */
  readonly partitionkey: string;
  readonly data: Readonly<Record<string, unknown>>;
}

export const CLOUD_EVENT = 'application/cloudevents+json';
export const CLOUD_EVENTS = 'application/cloudevents-batch+json';
/** Before the kind of an event in the type of a CloudEvent, whose types are told apart by who defines them. */
export const EVENT_PREFIX = 'tidy-slate.';
/** Digits of the largest whole number that is exact. */
const DIGITS = 16;

/**
 * An event as CloudEvents 1.0 says it. `origin` is where the workspace is reached. The same event has the
 * same id whoever is told, and however often.
 */
export function cloudEvent(told: ToldEvent, origin: string): CloudEvent {
  const { event, key } = told;
  const [about, what] =
    event.tableId === null ? ['forms', event.submissionId ?? ''] : ['tables', event.recordId ?? ''];
  return {
    specversion: '1.0',
    id: String(event.position),
    source: `${origin}/${about}/${key}`,
    type: `${EVENT_PREFIX}${event.kind}`,
    subject: what,
    time: event.at.toISOString(),
    datacontenttype: 'application/json',
    sequence: String(event.position).padStart(DIGITS, '0'),
    partitionkey: what,
    data: event.tableId === null ? aboutSubmission(told) : aboutRecord(told),
  };
}

function aboutRecord({ event, key, by, record }: ToldEvent): CloudEvent['data'] {
  const { recordId, lastId, version, kind, changed } = event;
  if (kind === 'records.imported') return { table: key, first: recordId, last: lastId, by };
  return {
    table: key,
    id: recordId,
    version,
    ...(kind === 'record.changed' && { changed }),
    by,
    record,
  };
}

function aboutSubmission({ event, key, by, submission }: ToldEvent): CloudEvent['data'] {
  const { submissionId, kind, decision, word } = event;
  return {
    form: key,
    id: submissionId,
    number: submission?.number ?? null,
    state: submission?.state ?? null,
    ...(kind === 'submission.decided' && { decision, word: word ?? '' }),
    by,
    record: submission?.record ?? null,
  };
}

/** By what people know what an event is about: the number of the record or submission; empty where there is none any more. */
export function numberOf({ data }: CloudEvent): string {
  const record = data['record'];
  const of =
    typeof record === 'object' && record !== null && 'number' in record ? record.number : data['number'];
  return typeof of === 'string' ? of : '';
}

/** What an address is sent by hand, to see whether it answers. It is about nothing. */
export const triedEvent = (id: string, origin: string, now: Date): CloudEvent => ({
  specversion: '1.0',
  id,
  source: `${origin}/events`,
  type: `${EVENT_PREFIX}tried`,
  subject: id,
  time: now.toISOString(),
  datacontenttype: 'application/json',
  sequence: '0'.repeat(DIGITS),
  partitionkey: id,
  data: { words: 'Somebody tries whether this address answers.' },
});
