import SwaggerParser from '@apidevtools/swagger-parser';
import { expect, it } from 'vitest';
import { plantIntake, treatmentRequest } from '../../../demo/forms';
import { baseTables } from '../../../demo/tables';
import { openApi } from './open-api';
import type { ReachedTable } from './table-paths';

const reached = (may: boolean) =>
  baseTables.map((table): ReachedTable => ({ table, add: may, change: may, remove: may, example: null }));
const forms = [
  { key: 'plant-intake', design: plantIntake },
  { key: 'treatment_request', design: treatmentRequest },
];
const described = (tables: readonly ReachedTable[], some = forms) =>
  openApi({
    title: 'Quillmere',
    origin: 'http://127.0.0.1:4321',
    tables,
    forms: some,
    follows: some.length > 0,
  });

it('is valid OpenAPI 3.1, whatever a token reaches', async () => {
  for (const document of [described(reached(true)), described(reached(false)), described([], [])])
    // It reads a document in place, and puts what is referred to there.
    await SwaggerParser.validate(structuredClone(document) as never);
});

it('tells of nothing beyond what is reached', () => {
  const [beds] = reached(false);
  const document = described(beds === undefined ? [] : [beds], []);
  expect(
    Object.entries(document['paths'] as object).map(([path, item]) => [path, ...Object.keys(item as object)]),
  ).toEqual([
    ['/tables/beds/records', 'get'],
    ['/tables/beds/records/{id}', 'parameters', 'get'],
    ['/events', 'get'],
  ]);
  expect(JSON.stringify(document)).not.toMatch(/Products|treatment/i);
});

it('has a name of its own for each thing that can be done', () => {
  const paths = described(reached(true))['paths'] as Record<string, Record<string, { operationId?: string }>>;
  const names = Object.values(paths).flatMap((item) =>
    Object.values(item).flatMap(({ operationId }) => operationId ?? []),
  );
  expect(new Set(names).size).toBe(names.length);
  expect(names).toContain('beds.batch');
});
