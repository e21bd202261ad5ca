import type { JsonSchema } from '../kernel/json-schema';
import { limits } from '../limits';

/** What the document refers to by name from several places: parameters, headers, and what a problem looks like. */
export const ref = (kind: string, name: string) => ({ $ref: `#/components/${kind}/${name}` });
export const json = (schema: JsonSchema, example?: unknown) => ({
  'application/json': { schema, ...(example !== undefined && { example }) },
});
export const problems = { default: ref('responses', 'Problem') };
export const withoutMeta = ({ $schema: _, ...schema }: JsonSchema): JsonSchema => schema;

export const parameters = {
  id: { name: 'id', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } },
  where: {
    name: 'where',
    in: 'query',
    description: 'Which records, in FEEL over the columns: `area > 10 and name != null`',
    schema: { type: 'string', maxLength: 4_000 },
  },
  find: {
    name: 'find',
    in: 'query',
    description: 'Words that are seen somewhere in the record',
    schema: { type: 'string', maxLength: limits.label },
  },
  sort: {
    name: 'sort',
    in: 'query',
    description:
      'Columns by their keys, divided by commas; with a minus before it, the largest first: `-area,name`',
    schema: { type: 'string', maxLength: 1_000 },
  },
  columns: {
    name: 'columns',
    in: 'query',
    description:
      'The columns that are wanted, by their keys, divided by commas; all of them where it is left out',
    schema: { type: 'string', maxLength: 4_000 },
  },
  limit: {
    name: 'limit',
    in: 'query',
    description: `How many at once: 50 where it is left out, ${limits.pageSize} at most`,
    schema: { type: 'integer', minimum: 1, maximum: limits.pageSize, default: 50 },
  },
  after: {
    name: 'after',
    in: 'query',
    description: 'The record after which it goes on, by its id; `next` says it',
    schema: { type: 'string', format: 'uuid' },
  },
  count: {
    name: 'count',
    in: 'query',
    description: 'Whether to count all that are found; of very many it is about so many',
    schema: { type: 'boolean' },
  },
  lastEventId: {
    name: 'lastEventId',
    in: 'query',
    description:
      'The id of the last event that was read; left out, it begins with the first there is. Events are kept for ' +
      `${limits.eventDays} days`,
    schema: { type: 'integer', minimum: 0 },
  },
  'If-Match': {
    name: 'If-Match',
    in: 'header',
    required: true,
    description: 'The ETag of the record as it was read, or * for whatever it is by now',
    schema: { type: 'string' },
  },
  'Idempotency-Key': {
    name: 'Idempotency-Key',
    in: 'header',
    description:
      'Any text of your own; the same request with the same key is done once, and answered the same',
    schema: { type: 'string', minLength: 1, maxLength: 200 },
  },
};

export const headers = {
  ETag: { description: 'The version of the record', schema: { type: 'string' } },
  Link: { description: 'The next page (RFC 8288)', schema: { type: 'string' } },
  RateLimit: {
    description: 'How many more requests there are, for how many seconds',
    schema: { type: 'string' },
  },
};

export const problemSchema: JsonSchema = {
  type: 'object',
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    code: { type: 'string' },
    issues: {
      type: 'array',
      items: {
        type: 'object',
        properties: {
          code: { type: 'string' },
          path: { type: 'array', items: { type: ['string', 'integer'] } },
          sentence: { type: 'string' },
        },
        required: ['code', 'path', 'sentence'],
      },
    },
  },
  required: ['type', 'title', 'status', 'code'],
};

export const problemAnswer = {
  description: 'What was wrong, and where',
  content: { 'application/problem+json': { schema: ref('schemas', 'Problem') } },
};
