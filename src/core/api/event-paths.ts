import { CLOUD_EVENTS, EVENT_PREFIX, eventKinds } from '../event/event';
import type { JsonSchema } from '../kernel/json-schema';
import { problems, ref } from './components';

/** CloudEvents 1.0 in structured mode, with the sequence and partitioning extensions. */
export const eventSchema: JsonSchema = {
  type: 'object',
  properties: {
    specversion: { const: '1.0' },
    id: { type: 'string', description: 'The same however often it is told' },
    source: { type: 'string', format: 'uri' },
    type: { type: 'string', examples: eventKinds.map((kind) => `${EVENT_PREFIX}${kind}`) },
    subject: { type: 'string', description: 'The record or submission, by its id' },
    time: { type: 'string', format: 'date-time' },
    datacontenttype: { const: 'application/json' },
    sequence: { type: 'string', description: 'Grows with the order of events' },
    partitionkey: { type: 'string', description: 'What has the same is told in its order' },
    data: {
      type: 'object',
      description:
        'Of a record: table, id, version, the columns that changed, by, and the record as it is by now (null where it is removed). Of a submission: form, id, number, state, decision, word, by, record',
    },
  },
  required: ['specversion', 'id', 'source', 'type', 'subject', 'time', 'data'],
};

export const feed = {
  operationId: 'events.list',
  tags: ['Events'],
  summary: 'What happened, in its order: each event at least once',
  parameters: [ref('parameters', 'lastEventId'), ref('parameters', 'limit')],
  responses: {
    200: {
      description: 'Some events, as a CloudEvents batch; none at the end for now',
      headers: { Link: ref('headers', 'Link'), RateLimit: ref('headers', 'RateLimit') },
      content: { [CLOUD_EVENTS]: { schema: { type: 'array', items: ref('schemas', 'Event') } } },
    },
    ...problems,
  },
};
