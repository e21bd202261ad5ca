import { describe, expect, it } from 'vitest';
import { treatmentRequest } from '../../../demo/forms';
import { baseTables, beds } from '../../../demo/tables';
import { valuesFromJson } from '../record/record-json';
import { openApi } from './open-api';
import { operationsOf } from './operations';
import { curlOf, outgoing, typescriptOf } from './snippets';

const document = openApi({
  title: 'Quillmere',
  origin: 'http://127.0.0.1:4321',
  tables: baseTables.map((table) => ({ table, add: true, change: true, remove: true, example: null })),
  forms: [{ key: 'treatment_request', design: treatmentRequest }],
  follows: true,
});
const operations = operationsOf(document);
const named = (id: string) => {
  const found = operations.find((one) => one.id === id);
  if (found === undefined) throw new Error(`there is no ${id}`);
  return found;
};
const SERVER = 'http://127.0.0.1:4321/api/v1';

describe('what may be asked', () => {
  it('is told with its places and what is sent', () => {
    expect(named('beds.change')).toMatchObject({
      method: 'PATCH',
      path: '/tables/beds/records/{id}',
      tag: 'Beds',
      body: { type: 'application/merge-patch+json' },
    });
    expect(
      named('beds.change').parameters.map(({ name, in: place, required }) => [name, place, required]),
    ).toEqual([
      ['id', 'path', true],
      ['If-Match', 'header', true],
      ['Idempotency-Key', 'header', false],
    ]);
    expect(named('beds.add').body?.fields.find(({ key }) => key === 'code')).toEqual({
      key: 'code',
      title: 'Code',
      kind: 'string',
      required: true,
    });
    expect(
      named('treatment_request.send')
        .body?.fields.map(({ key }) => key)
        .join(' '),
    ).toMatch(/answers\.\w+\[\]\.rate/);
  });

  it('begins with a body whose values are of their kinds', () => {
    const example = named('beds.add').body?.example as Record<string, unknown>;
    expect(valuesFromJson(beds, example).ok).toBe(true);
    expect(Object.keys(example)).toContain('area');
  });

  it('is written for a shell and for a program', () => {
    const asking = {
      operation: named('beds.add'),
      values: { 'Idempotency-Key': "it's mine" },
      body: `{ "name": "O'Hara's" }`,
    };
    expect(curlOf(SERVER, asking)).toBe(
      `curl -X POST '${SERVER}/tables/beds/records' \\
  -H "Authorization: Bearer $SLATE_TOKEN" \\
  -H 'Idempotency-Key: it'\\''s mine' \\
  -H 'Content-Type: application/json' \\
  -d '{"name":"O'\\''Hara'\\''s"}'`,
    );
    expect(typescriptOf(SERVER, asking)).toContain(`body: JSON.stringify({"name":"O'Hara's"}),`);
    const list = { operation: named('beds.list'), values: { where: 'area > 10', limit: '' }, body: '' };
    expect(outgoing(SERVER, list)).toEqual({
      url: `${SERVER}/tables/beds/records?where=area+%3E+10`,
      headers: {},
      body: null,
    });
  });
});
