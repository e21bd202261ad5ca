import type { JsonSchema } from '../kernel/json-schema';
import { limits } from '../limits';
import { recordSchema, valuesSchema } from '../record/record-json';
import type { Table } from '../table/model';
import { json, problems, ref } from './components';

/** A table, and what a token may do in it. */
export interface ReachedTable {
  readonly table: Table;
  readonly add: boolean;
  readonly change: boolean;
  readonly remove: boolean;
  /** A record as it is there, if there is one. */
  readonly example: Readonly<Record<string, unknown>> | null;
}

export const schemasOfTable = ({ table, add, change }: ReachedTable): Record<string, JsonSchema> => ({
  [table.key]: recordSchema(table),
  ...(add && { [`${table.key}.new`]: valuesSchema(table, true) }),
  ...(change && { [`${table.key}.change`]: valuesSchema(table, false) }),
});

export function pathsOfTable(one: ReachedTable): Record<string, JsonSchema> {
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
