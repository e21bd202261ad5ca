import { issue, type Issue } from '../kernel/issue';
import type { JsonSchema } from '../kernel/json-schema';
import { fail, ok, type Result } from '../kernel/result';
import { limits } from '../limits';
import type { ColumnValue } from '../storage/rows-to-write';
import { listStored, storedList } from '../table/kinds/stored-list';
import { isTypedIn, type Column, type ColumnKind, type Table } from '../table/model';
import { offered } from '../table/choice-list';
import type { Values } from './column-value';

/** A record as it is read: its cells as the database says them, references by title, with the ids they name. */
export interface ReadRecord {
  readonly id: string;
  readonly number: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly cells: Values;
  readonly named: Readonly<Record<string, string>>;
}

/**
 * A record as JSON, by the keys of its columns: whole numbers as numbers, others as text, for JSON's own
 * would lose digits; choices by their codes; a record it names by its id, with the title it has now.
 */
export const recordJson = (
  columns: readonly Column[],
  record: ReadRecord,
): Readonly<Record<string, unknown>> => ({
  id: record.id,
  number: record.number,
  version: record.version,
  created_at: record.createdAt,
  updated_at: record.updatedAt,
  ...Object.fromEntries(columns.map((column) => [column.key, cellJson(column, record)])),
});

function cellJson(column: Column, { cells, named }: ReadRecord): unknown {
  const cell = cells[column.id] ?? null;
  if (column.kind === 'reference') {
    const id = named[column.id];
    return id === undefined ? null : { id, title: cell };
  }
  if (cell === null || typeof cell === 'boolean') return cell;
  switch (column.kind) {
    case 'whole':
      return Number(cell);
    case 'choices':
    case 'files':
      return listStored(cell) ?? [];
    case 'date-time':
      return cell.replace(' ', 'T');
    default:
      return cell;
  }
}

/** Keys of a record that nobody writes: they come by themselves. */
const OWN = new Set(['id', 'number', 'version', 'created_at', 'updated_at', 'parent_id']);

/**
 * What a record is given as JSON, by the keys of its columns, as values by their ids; each issue at its key.
 * What comes by itself may stand there, and is left.
 */
export function valuesFromJson(
  table: Table,
  given: Readonly<Record<string, unknown>>,
): Result<Values, Issue[]> {
  const issues: Issue[] = [];
  const values: Record<string, ColumnValue> = {};
  for (const [key, value] of Object.entries(given)) {
    if (OWN.has(key)) continue;
    const column = table.columns.find((one) => one.key === key);
    if (column === undefined) issues.push(issue('unknown-column', [key], { name: key }));
    else if (!isTypedIn(column)) issues.push(issue('column-locked', [key], { label: column.label }));
    else {
      const read = fromJson(column.kind, value);
      if (read === undefined) issues.push(issue(NOT_LIKE_THIS[column.kind], [key], { label: column.label }));
      else values[column.id] = read;
    }
  }
  return issues.length > 0 ? fail(issues) : ok(values);
}

/** A value of JSON as it would be typed; undefined where nothing of this kind is ever said like that. */
export function fromJson(kind: ColumnKind, value: unknown): ColumnValue | undefined {
  if (value === null) return null;
  switch (kind) {
    case 'yes-no':
      return typeof value === 'boolean' ? value : undefined;
    case 'whole':
    case 'decimal':
    case 'money':
      // What JSON writes with an exponent has lost digits already.
      return typeof value === 'number' ? plainNumber(value) : typeof value === 'string' ? value : undefined;
    case 'choices':
    case 'files':
      return Array.isArray(value) && value.every((one) => typeof one === 'string')
        ? storedList(value)
        : undefined;
    case 'reference':
      return typeof value === 'string' ? value : idIn(value);
    default:
      return typeof value === 'string' ? value : undefined;
  }
}

const plainNumber = (value: number): string | undefined =>
  /e/i.test(String(value)) ? undefined : String(value);

const idIn = (value: unknown): string | undefined =>
  typeof value === 'object' && value !== null && 'id' in value && typeof value.id === 'string'
    ? value.id
    : undefined;

export const NOT_LIKE_THIS = {
  text: 'not-text',
  whole: 'not-whole',
  decimal: 'not-a-number',
  money: 'not-a-number',
  date: 'not-a-date',
  time: 'not-a-time',
  'date-time': 'not-a-date-time',
  'yes-no': 'not-yes-no',
  choice: 'not-a-choice',
  choices: 'not-a-choice',
  files: 'not-files',
  reference: 'not-a-record',
  'e-mail': 'not-an-e-mail',
  'web-address': 'not-a-web-address',
  phone: 'not-a-phone',
} as const satisfies Record<ColumnKind, Issue['code']>;

/** A record as it is read, as JSON Schema 2020-12. */
export const recordSchema = (table: Table): JsonSchema => ({
  type: 'object',
  title: table.label,
  properties: {
    id: { type: 'string', format: 'uuid', readOnly: true },
    number: { type: 'string', readOnly: true, description: 'Given by the table, once' },
    version: { type: 'integer', readOnly: true, description: 'Grows with every change; it is the ETag' },
    created_at: { type: 'string', format: 'date-time', readOnly: true },
    updated_at: { type: 'string', format: 'date-time', readOnly: true },
    ...Object.fromEntries(table.columns.map((column) => [column.key, columnSchema(column)])),
  },
  additionalProperties: false,
});

/** What a record is given when it is added, or changed. */
export const valuesSchema = (table: Table, adding: boolean): JsonSchema => {
  const columns = table.columns.filter(isTypedIn);
  const required = adding
    ? columns.filter((one) => one.required && one.default === '').map(({ key }) => key)
    : [];
  return {
    type: 'object',
    properties: {
      ...(adding &&
        table.parent !== null && {
          parent_id: { type: 'string', format: 'uuid', description: 'The record it is a row of' },
        }),
      ...Object.fromEntries(columns.map((column) => [column.key, writtenSchema(column)])),
    },
    ...(adding && (required.length > 0 || table.parent !== null)
      ? { required: [...(table.parent === null ? [] : ['parent_id']), ...required] }
      : {}),
    additionalProperties: false,
  };
};

const wordsOf = ({ label, description, unit }: Column): JsonSchema => {
  const about = [description, unit === '' ? '' : `in ${unit}`].filter((one) => one !== '').join('; ');
  return { title: label, ...(about !== '' && { description: about }) };
};

function columnSchema(column: Column): JsonSchema {
  const fixed = isTypedIn(column) ? {} : { readOnly: true };
  const words = { ...wordsOf(column), ...fixed };
  if (column.kind === 'reference')
    return {
      ...words,
      type: ['object', 'null'],
      properties: { id: { type: 'string', format: 'uuid' }, title: { type: ['string', 'null'] } },
      required: ['id'],
    };
  return { ...words, ...orNull(typeOf(column)) };
}

/** What is required is never null. */
function writtenSchema(column: Column): JsonSchema {
  const type =
    column.kind === 'reference'
      ? { type: 'string', format: 'uuid', description: 'The id of the record' }
      : column.kind === 'decimal' || column.kind === 'money'
        ? { type: ['string', 'number'], pattern: DECIMAL }
        : typeOf(column);
  return { ...type, ...wordsOf(column), ...(column.required ? {} : orNull(type)) };
}

const DECIMAL = '^-?\\d{1,15}(\\.\\d{1,8})?$';

function typeOf({ kind, choices }: Column): JsonSchema {
  switch (kind) {
    case 'text':
      return { type: 'string', maxLength: limits.longText };
    case 'whole':
      return { type: 'integer' };
    case 'decimal':
    case 'money':
      return { type: 'string', pattern: DECIMAL };
    case 'yes-no':
      return { type: 'boolean' };
    case 'date':
      return { type: 'string', format: 'date' };
    case 'time':
      return { type: 'string', pattern: '^\\d\\d:\\d\\d(:\\d\\d)?$' };
    case 'date-time':
      return { type: 'string', pattern: '^\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d(:\\d\\d)?$' };
    case 'e-mail':
      return { type: 'string', format: 'email' };
    case 'web-address':
      return { type: 'string', format: 'uri' };
    case 'phone':
      return { type: 'string' };
    case 'choice':
      return { type: 'string', enum: offered(choices).map(({ code }) => code) };
    case 'choices':
      return {
        type: 'array',
        items: { type: 'string', enum: offered(choices).map(({ code }) => code) },
        uniqueItems: true,
      };
    case 'files':
      return { type: 'array', items: { type: 'string', format: 'uuid' } };
    case 'reference':
      return { type: 'string', format: 'uuid' };
  }
}

const orNull = (schema: JsonSchema): JsonSchema => {
  const { type, enum: codes } = schema;
  return {
    ...schema,
    type: [...(Array.isArray(type) ? type : [type]), 'null'],
    ...(Array.isArray(codes) && { enum: [...codes, null] }),
  };
};
