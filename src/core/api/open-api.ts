import { CLOUD_EVENTS, EVENT_PREFIX, eventKinds } from '../event/event';
import { answersSchema } from '../form/answers-schema';
import type { FormDesign } from '../form/design';
import type { JsonSchema } from '../kernel/json-schema';
import { limits } from '../limits';
import { recordSchema, valuesSchema } from '../record/record-json';
import type { Table } from '../table/model';

/** What a token reaches, as a document describes it. */
export interface Reach {
  /** What the workspace is called, and where it is reached. */
  readonly title: string;
  readonly origin: string;
  readonly tables: readonly ReachedTable[];
  readonly forms: readonly { readonly key: string; readonly design: FormDesign }[];
  /** Whether it sees every submission of any form. */
  readonly follows: boolean;
}

export interface ReachedTable {
  readonly table: Table;
  readonly add: boolean;
  readonly change: boolean;
  readonly remove: boolean;
  /** A record as it is there, if there is one. */
  readonly example: Readonly<Record<string, unknown>> | null;
}

/** Where the API begins, under the address of the workspace. */
export const API = '/api/v1';

/** The API as OpenAPI 3.1 describes it, for whoever has a token that reaches this. */
export const openApi = ({ title, origin, tables, forms, follows }: Reach): JsonSchema => ({
  openapi: '3.1.0',
  info: {
    title: title === '' ? 'Tidy Slate' : title,
    version: '1',
    description: ABOUT,
  },
  servers: [{ url: `${origin}${API}` }],
  security: [{ token: [] }],
  tags: [
    ...tables.map(({ table }) => ({ name: table.label })),
    ...forms.map(({ design }) => ({ name: design.title })),
    { name: 'Events' },
  ],
  paths: {
    ...Object.assign({}, ...tables.map(pathsOfTable)),
    ...Object.assign({}, ...forms.map(pathsOfForm)),
    ...((forms.length > 0 || follows) && { '/submissions/{id}': { get: oneSubmission } }),
    ...((tables.length > 0 || follows) && { '/events': { get: feed } }),
  },
  components: {
    securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
    parameters,
    headers,
    responses: { Problem: problemAnswer },
    schemas: {
      Problem: problemSchema,
      Submission: submissionSchema,
      Event: eventSchema,
      ...Object.assign({}, ...tables.map(schemasOfTable)),
      ...Object.fromEntries(
        forms.map(({ key, design }) => [`${key}.answers`, withoutMeta(answersSchema(design))]),
      ),
    },
  },
});

const ABOUT = `Whatever goes wrong is told as a problem document (RFC 9457), each issue with its place. Records carry their version as an ETag; a change says with \`If-Match\` which version it began from. What is sent with the same \`Idempotency-Key\` is done once. At most ${limits.tokenPerMinute} requests in a minute for each token.`;

const ref = (kind: string, name: string) => ({ $ref: `#/components/${kind}/${name}` });
const json = (schema: JsonSchema, example?: unknown) => ({
  'application/json': { schema, ...(example !== undefined && { example }) },
});
const problems = { default: ref('responses', 'Problem') };
const withoutMeta = ({ $schema: _, ...schema }: JsonSchema): JsonSchema => schema;

const parameters = {
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

const headers = {
  ETag: { description: 'The version of the record', schema: { type: 'string' } },
  Link: { description: 'The next page (RFC 8288)', schema: { type: 'string' } },
  RateLimit: {
    description: 'How many more requests there are, for how many seconds',
    schema: { type: 'string' },
  },
};

const problemSchema: JsonSchema = {
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

const problemAnswer = {
  description: 'What was wrong, and where',
  content: { 'application/problem+json': { schema: ref('schemas', 'Problem') } },
};

const schemasOfTable = ({ table, add, change }: ReachedTable): Record<string, JsonSchema> => ({
  [table.key]: recordSchema(table),
  ...(add && { [`${table.key}.new`]: valuesSchema(table, true) }),
  ...(change && { [`${table.key}.change`]: valuesSchema(table, false) }),
});

function pathsOfTable(one: ReachedTable): Record<string, JsonSchema> {
  const { table, add, change, remove, example } = one;
  const at = `/tables/${table.key}/records`;
  const tags = [table.label];
  const record = (description: string) => ({
    description,
    headers: { ETag: ref('headers', 'ETag'), RateLimit: ref('headers', 'RateLimit') },
    content: json(ref('schemas', table.key), example ?? undefined),
  });
  return {
    [at]: {
      get: {
        operationId: `${table.key}.list`,
        tags,
        summary: `Records of ${table.label}`,
        parameters: ['where', 'find', 'sort', 'columns', 'limit', 'after', 'count'].map((name) =>
          ref('parameters', name),
        ),
        responses: { 200: listAnswer(one), ...problems },
      },
      ...(add && {
        post: {
          operationId: `${table.key}.add`,
          tags,
          summary: 'Adds a record',
          parameters: [ref('parameters', 'Idempotency-Key')],
          requestBody: { required: true, content: json(ref('schemas', `${table.key}.new`)) },
          responses: { 201: record('The record as it is now'), ...problems },
        },
      }),
    },
    [`${at}/{id}`]: {
      parameters: [ref('parameters', 'id')],
      get: {
        operationId: `${table.key}.read`,
        tags,
        summary: 'One record',
        responses: {
          200: record('The record'),
          304: { description: 'It is as If-None-Match says' },
          ...problems,
        },
      },
      ...(change && {
        patch: {
          operationId: `${table.key}.change`,
          tags,
          summary: 'Changes what is named, and nothing else (JSON Merge Patch, RFC 7396)',
          parameters: [ref('parameters', 'If-Match'), ref('parameters', 'Idempotency-Key')],
          requestBody: {
            required: true,
            content: { 'application/merge-patch+json': { schema: ref('schemas', `${table.key}.change`) } },
          },
          responses: { 200: record('The record as it is now'), ...problems },
        },
      }),
      ...(remove && {
        delete: {
          operationId: `${table.key}.remove`,
          tags,
          summary: 'Removes a record; it can be brought back in the application for a while',
          parameters: [ref('parameters', 'If-Match'), ref('parameters', 'Idempotency-Key')],
          responses: { 204: { description: 'It is removed' }, ...problems },
        },
      }),
    },
    ...((add || change || remove) && { [`/tables/${table.key}/batch`]: { post: batchOf(one, tags) } }),
  };
}

const listAnswer = ({ table, example }: ReachedTable) => ({
  description: 'Some records, and where it goes on',
  headers: { Link: ref('headers', 'Link'), RateLimit: ref('headers', 'RateLimit') },
  content: json(
    {
      type: 'object',
      properties: {
        records: { type: 'array', items: ref('schemas', table.key) },
        next: { type: ['string', 'null'], description: 'The address of the next page; null at the end' },
        total: {
          type: 'object',
          description: 'Where it was asked to count',
          properties: { records: { type: 'integer' }, about: { type: 'boolean' } },
        },
      },
      required: ['records', 'next'],
    },
    example === null ? undefined : { records: [example], next: null },
  ),
});

function batchOf({ table, add, change, remove }: ReachedTable, tags: string[]): JsonSchema {
  const id = { type: 'string', format: 'uuid' };
  const version = { type: 'integer', minimum: 1 };
  const edit = (op: string, properties: JsonSchema): JsonSchema => ({
    type: 'object',
    properties: { op: { const: op }, ...properties },
    required: ['op', ...Object.keys(properties)],
    additionalProperties: false,
  });
  return {
    operationId: `${table.key}.batch`,
    tags,
    summary: 'Adds, changes and removes several records: all of them, or none',
    parameters: [ref('parameters', 'Idempotency-Key')],
    requestBody: {
      required: true,
      content: json({
        type: 'object',
        properties: {
          edits: {
            type: 'array',
            minItems: 1,
            maxItems: limits.batchEdits,
            items: {
              oneOf: [
                ...(add ? [edit('add', { values: ref('schemas', `${table.key}.new`) })] : []),
                ...(change
                  ? [edit('change', { id, version, values: ref('schemas', `${table.key}.change`) })]
                  : []),
                ...(remove ? [edit('remove', { id, version })] : []),
              ],
            },
          },
        },
        required: ['edits'],
        additionalProperties: false,
      }),
    },
    responses: {
      200: {
        description: 'The records with their versions, in the order of the edits',
        content: json({
          type: 'object',
          properties: {
            records: {
              type: 'array',
              items: { type: 'object', properties: { id, version }, required: ['id', 'version'] },
            },
          },
          required: ['records'],
        }),
      },
      ...problems,
    },
  };
}

const submissionSchema: JsonSchema = {
  type: 'object',
  properties: {
    id: { type: 'string', format: 'uuid' },
    number: { type: ['string', 'null'] },
    state: { type: 'string', enum: ['draft', 'waiting', 'sent-back', 'declined', 'withdrawn', 'kept'] },
    version: { type: 'integer' },
    record: {
      type: ['string', 'null'],
      format: 'uuid',
      description: 'The record it became, once it is kept',
    },
    last_word: { type: ['string', 'null'], description: 'What was said with the last decision' },
  },
  required: ['id', 'number', 'state', 'version', 'record', 'last_word'],
};

/** CloudEvents 1.0 in structured mode, with the sequence and partitioning extensions. */
const eventSchema: JsonSchema = {
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

const feed = {
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

const submissionAnswer = (description: string) => ({
  description,
  content: json(ref('schemas', 'Submission')),
});

const oneSubmission = {
  operationId: 'submissions.read',
  summary: 'How a submission stands',
  parameters: [ref('parameters', 'id')],
  responses: { 200: submissionAnswer('The submission'), ...problems },
};

const pathsOfForm = ({ key, design }: Reach['forms'][number]): Record<string, JsonSchema> => ({
  [`/forms/${key}/submissions`]: {
    post: {
      operationId: `${key}.send`,
      tags: [design.title],
      summary: `Fills ${design.title}: sends it, or sets it aside as a draft`,
      parameters: [ref('parameters', 'Idempotency-Key')],
      requestBody: {
        required: true,
        content: json({
          type: 'object',
          properties: {
            answers: ref('schemas', `${key}.answers`),
            reasons: {
              type: 'object',
              description: 'Where a check asks for a reason: the reason, by the check its issue names',
              additionalProperties: { type: 'string' },
            },
            draft: { type: 'boolean', default: false, description: 'Kept, but not sent yet' },
          },
          required: ['answers'],
          additionalProperties: false,
        }),
      },
      responses: { 201: submissionAnswer('It is sent, or set aside'), ...problems },
    },
  },
});
