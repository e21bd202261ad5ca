import type { JsonSchema } from '../kernel/json-schema';

/** One thing a program may ask, as the document of the API describes it, with what it refers to put in its place. */
export interface Operation {
  readonly id: string;
  readonly method: string;
  /** Under the address of the server: `/tables/beds/records/{id}`. */
  readonly path: string;
  readonly tag: string;
  readonly summary: string;
  readonly parameters: readonly Parameter[];
  /** Its media type, and what may stand there; null where nothing is sent. */
  readonly body: {
    readonly type: string;
    readonly example: unknown;
    readonly fields: readonly Field[];
  } | null;
}

export interface Parameter {
  readonly name: string;
  readonly in: 'path' | 'query' | 'header';
  readonly required: boolean;
  readonly description: string;
}

/** A value of a body, or of what is answered: what it is called, and of what kind. */
export interface Field {
  readonly key: string;
  readonly title: string;
  readonly kind: string;
  readonly required: boolean;
}

const METHODS = ['get', 'post', 'patch', 'delete'];

/** What a document describes, in its order. */
export function operationsOf(document: JsonSchema): Operation[] {
  const follow = following(document);
  return Object.entries(objectIn(document['paths'])).flatMap(([path, item]) => {
    const all = listIn(objectIn(item)['parameters']);
    return METHODS.flatMap((method) => {
      const one = objectIn(item)[method];
      if (one === undefined) return [];
      const { operationId, tags, summary, parameters, requestBody } = objectIn(one);
      return {
        id: String(operationId),
        method: method.toUpperCase(),
        path,
        tag: String(listIn(tags)[0] ?? 'Submissions'),
        summary: String(summary ?? ''),
        parameters: [...all, ...listIn(parameters)].map((each) => parameterOf(follow(each))),
        body: requestBody === undefined ? null : bodyOf(objectIn(requestBody), follow),
      };
    });
  });
}

type Follow = (schema: unknown) => JsonSchema;

/** What a reference within a document stands for; anything else is itself. */
function following(document: JsonSchema): Follow {
  return (schema) => {
    const { $ref } = objectIn(schema);
    if (typeof $ref !== 'string') return objectIn(schema);
    return $ref
      .replace('#/', '')
      .split('/')
      .reduce((at: JsonSchema, key) => objectIn(at[key]), document);
  };
}

const parameterOf = ({ name, in: place, required, description }: JsonSchema): Parameter => ({
  name: String(name),
  in: place as Parameter['in'],
  required: required === true,
  description: typeof description === 'string' ? description : '',
});

function bodyOf({ content }: JsonSchema, follow: Follow): Operation['body'] {
  const [first] = Object.entries(objectIn(content));
  if (first === undefined) return null;
  const [type, media] = first;
  const schema = follow(objectIn(media)['schema']);
  return { type, example: exampleOf(schema, follow), fields: fieldsOf(schema, follow) };
}

/** How deep what refers to itself is followed. */
const DEEPEST = 6;

function fieldsOf(schema: JsonSchema, follow: Follow, before = '', depth = 0): Field[] {
  const required = new Set(listIn(schema['required']));
  return Object.entries(objectIn(schema['properties'])).flatMap(([key, given]) => {
    const one = follow(given);
    const name = `${before}${key}`;
    const field = {
      key: name,
      title: typeof one['title'] === 'string' ? one['title'] : '',
      kind: kindWords(one),
      required: required.has(key),
    };
    const items = follow(one['items']);
    const inner =
      depth >= DEEPEST
        ? []
        : one['type'] === 'object'
          ? fieldsOf(one, follow, `${name}.`, depth + 1)
          : fieldsOf(items, follow, `${name}[].`, depth + 1);
    return [field, ...inner];
  });
}

/** What kind a value is, in a word or two. */
export function kindWords({ type, format, enum: codes, oneOf, const: only, pattern }: JsonSchema): string {
  if (only !== undefined) return JSON.stringify(only);
  const kind = listIn(type).find((one) => one !== 'null') ?? type;
  if (Array.isArray(codes)) return 'one of a few';
  if (Array.isArray(oneOf)) return 'one of a few';
  if (format === 'uuid') return 'id';
  if (typeof format === 'string') return format;
  if (kind === 'string' && typeof pattern === 'string')
    return pattern.includes('T') ? 'date and time' : pattern.includes(':') ? 'time' : 'decimal';
  return typeof kind === 'string' ? kind : 'any';
}

/** A value as a schema describes it, to begin with. */
export function exampleOf(schema: JsonSchema, follow: Follow = objectIn, depth = 0): unknown {
  const {
    type,
    format,
    enum: codes,
    oneOf,
    const: only,
    pattern,
    properties,
    items,
    default: usual,
    title,
  } = schema;
  if (usual !== undefined) return usual;
  if (only !== undefined) return only;
  if (Array.isArray(codes)) return codes[0];
  if (Array.isArray(oneOf)) return exampleOf(follow(oneOf[0]), follow, depth + 1);
  if (depth > DEEPEST) return null;
  const kind = listIn(type).find((one) => one !== 'null') ?? type;
  switch (kind) {
    case 'object':
      return Object.fromEntries(
        Object.entries(objectIn(properties)).map(([key, one]) => [
          key,
          exampleOf(follow(one), follow, depth + 1),
        ]),
      );
    case 'array':
      return [exampleOf(follow(items), follow, depth + 1)];
    case 'integer':
    case 'number':
      return 1;
    case 'boolean':
      return true;
    case 'string':
      return textLike(format, pattern, title);
    default:
      return null;
  }
}

function textLike(format: unknown, pattern: unknown, title: unknown): string {
  if (format === 'date') return '2026-12-01';
  if (format === 'date-time') return '2026-12-01T09:30:00';
  if (format === 'time') return '09:30';
  if (format === 'uuid') return '00000000-0000-7000-8000-000000000000';
  if (format === 'email') return 'name@quillmere.example';
  if (format === 'uri') return 'https://quillmere.example';
  if (typeof pattern === 'string')
    return pattern.includes('T') ? '2026-12-01T09:30' : pattern.includes(':') ? '09:30' : '1.50';
  return typeof title === 'string' ? title : '';
}

const objectIn = (value: unknown): JsonSchema =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as JsonSchema) : {};
const listIn = (value: unknown): unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);
