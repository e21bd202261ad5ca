import { expect, test, type APIRequestContext } from '@playwright/test';
import { seat } from './people';

/** Calls made at random from what the API says of itself, sound and unsound: whatever comes, it is answered, and nothing breaks. By its name it comes last, for what it leaves behind is in the way of others. */
interface Schema {
  readonly [keyword: string]: unknown;
}
interface Call {
  readonly method: string;
  readonly path: string;
  readonly type: string | null;
  readonly body: Schema | null;
}

const CALLS = 1_200;
/** A token may ask so often in a minute. */
const PER_TOKEN = 500;

const STRANGE: readonly unknown[] = [
  ...[
    '',
    ' ',
    '\u0000',
    'a'.repeat(30_000),
    "'; DROP TABLE x; --",
    '🌿'.repeat(50),
    '\u202Eabc',
    '=1+1',
    '0',
    '1e400',
  ],
  ...[
    '2026-02-30',
    '2026-12-01T99:99',
    '{"a":1}',
    '<script>',
    '../..',
    '00000000-0000-7000-8000-000000000000',
  ],
  ...[null, true, 1, -1, 1e21, 0.1, [], {}, [[[]]], { id: 'x' }, { id: null }],
];
const FILTERS = [
  'number != null',
  'some x in y satisfies x',
  '1/0',
  'a.b.c',
  'not(',
  '"',
  'matches(number, "(a+)+$")',
  'today() > date("2026-01-01")',
  '{a:1}',
  'for i in 1..1000000 return i',
];

/** The same calls each time. */
function chance(seed: number) {
  let at = seed;
  const next = (): number => (at = (at * 1_664_525 + 1_013_904_223) >>> 0) / 2 ** 32;
  return { next, one: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T };
}

const objectIn = (value: unknown): Schema =>
  typeof value === 'object' && value !== null ? (value as Schema) : {};

function callsIn(document: Schema): Call[] {
  return Object.entries(objectIn(document['paths'])).flatMap(([path, item]) =>
    ['get', 'post', 'patch', 'delete'].flatMap((method) => {
      const found = objectIn(item)[method];
      if (found === undefined) return [];
      const [media] = Object.entries(objectIn(objectIn(objectIn(found)['requestBody'])['content']));
      return [
        {
          method,
          path,
          type: media?.[0] ?? null,
          body: media === undefined ? null : objectIn(objectIn(media[1])['schema']),
        },
      ];
    }),
  );
}

async function tokens(admin: APIRequestContext, many: number): Promise<string[]> {
  const data = (await (await admin.get('/api/tokens')).json()) as {
    people: { id: string; name: string }[];
  };
  const kofi = data.people.find(({ name }) => name === 'Kofi Renwick')?.id ?? '';
  const reach = (await (await admin.get(`/api/tokens/reach?person=${kofi}`)).json()) as { may: string[] };
  const grants = reach.may.map((words) => {
    const [action, id] = words.split(' ');
    return action === 'fill' ? { tableId: null, formId: id, action } : { tableId: id, formId: null, action };
  });
  const until = new Date(Date.now() + 20 * 86_400_000).toISOString().slice(0, 10);
  return Promise.all(
    Array.from({ length: many }, async (_, i) => {
      const made = await admin.put(`/api/tokens/${crypto.randomUUID()}`, {
        data: { label: `Anything ${i}`, person: kofi, until, grants },
      });
      return ((await made.json()) as { secret: string }).secret;
    }),
  );
}

test('whatever a program asks is answered, and nothing breaks', async ({ browser }) => {
  const { context } = await seat(browser, 'wren.calloway');
  const all = await tokens(context.request, Math.ceil(CALLS / PER_TOKEN));
  const origin = process.env['SLATE_ORIGIN'] ?? '';
  const about = await fetch(`${origin}/api/v1/openapi.json`, {
    headers: { authorization: `Bearer ${all[0] ?? ''}` },
  });
  const document = (await about.json()) as Schema;
  const calls = callsIn(document);
  expect(calls.length).toBeGreaterThan(100);
  const { next, one } = chance(42);
  const ids: string[] = [];

  const follow = (schema: unknown): Schema => {
    const { $ref } = objectIn(schema);
    return typeof $ref === 'string'
      ? $ref
          .slice(2)
          .split('/')
          .reduce((at: Schema, key) => objectIn(at[key]), document)
      : objectIn(schema);
  };
  const value = (given: unknown, depth = 0): unknown => {
    const schema = follow(given);
    const { type, format, pattern, properties, items, oneOf, const: only, enum: codes } = schema;
    if (next() < 0.12 || depth > 6) return one(STRANGE);
    if (only !== undefined) return only;
    if (Array.isArray(codes)) return one(codes);
    if (Array.isArray(oneOf)) return value(one(oneOf), depth + 1);
    switch ([type].flat().find((each) => each !== 'null')) {
      case 'object':
        return Object.fromEntries(
          Object.entries(objectIn(properties))
            .filter(() => next() < 0.85)
            .map(([key, each]) => [key, value(each, depth + 1)]),
        );
      case 'array':
        return Array.from({ length: Math.floor(next() * 3) }, () => value(items, depth + 1));
      case 'integer':
        return Math.floor(next() * 100);
      case 'boolean':
        return next() < 0.5;
      default:
        if (format === 'uuid') return next() < 0.7 && ids.length > 0 ? one(ids) : crypto.randomUUID();
        if (format === 'date') return '2026-12-01';
        return typeof pattern === 'string'
          ? one(['10:00', '2026-12-01T10:00', '1.50'])
          : `w${Math.floor(next() * 1e6)}`;
    }
  };
  const addressOf = ({ method, path }: Call): string => {
    const id = next() < 0.9 && ids.length > 0 ? one(ids) : String(one(STRANGE)).slice(0, 200);
    const placed = `${origin}/api/v1${path.replace('{id}', () => encodeURIComponent(id))}`;
    if (method !== 'get' || path.includes('{id}')) return placed;
    const query = new URLSearchParams();
    if (next() < 0.5) query.set('where', one(FILTERS));
    if (next() < 0.3) query.set('sort', one(['-number', 'number,x', '']));
    if (next() < 0.3) query.set('find', String(one(STRANGE)).slice(0, 300));
    if (next() < 0.3 && ids.length > 0) query.set('after', one(ids));
    query.set('limit', one(['1', '5', '200', '0', 'x']));
    return `${placed}?${query.toString()}`;
  };
  const broken: string[] = [];
  const answers = new Map<number, number>();
  let made = 0;
  const ask = async (i: number): Promise<void> => {
    const call = one(calls);
    const body =
      call.body === null
        ? undefined
        : JSON.stringify(value(call.body)).slice(0, next() < 0.02 ? -1 : undefined);
    const address = addressOf(call);
    const answer = await fetch(address, {
      method: call.method.toUpperCase(),
      headers: {
        authorization: `Bearer ${all[i % all.length] ?? ''}`,
        ...(call.type !== null && { 'content-type': call.type }),
        'if-match': one(['*', '"1"', 'x']),
        ...(next() < 0.3 && { 'idempotency-key': `k${Math.floor(next() * 50)}` }),
      },
      ...(body !== undefined && { body }),
    });
    const text = await answer.text();
    answers.set(answer.status, (answers.get(answer.status) ?? 0) + 1);
    if (answer.status >= 500 || answer.status === 429)
      broken.push(`${answer.status} ${call.method} ${address} ${body ?? ''}`.slice(0, 600));
    if (answer.ok) for (const [, id = ''] of text.matchAll(/"id":"([0-9a-f-]{36})"/g)) ids.push(id);
  };
  await Promise.all(
    Array.from({ length: 6 }, async () => {
      while (made < CALLS) await ask(made++);
    }),
  );
  expect(broken).toEqual([]);
  // It is no test of refusals alone.
  expect((answers.get(200) ?? 0) + (answers.get(201) ?? 0)).toBeGreaterThan(CALLS / 20);
});
