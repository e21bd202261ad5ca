import { expect, test, type APIResponse } from '@playwright/test';
import { seat } from './people';

/** Every endpoint, asked wrongly: a precise refusal, never a fault, and nothing half-saved. */
const TREATMENT = '01900000-0000-7000-a000-000000000001';
const nobody = '01900000-0000-7000-8000-00000000ffff';
const answers = { values: {}, rows: {}, reasons: {} };

async function expectProblem(
  response: APIResponse,
  status: number,
  code: string,
): Promise<{ issues?: { path: (string | number)[]; sentence: string }[] }> {
  expect(response.headers()['content-type']).toBe('application/problem+json');
  const problem = await response.json();
  expect([response.status(), problem.code]).toEqual([status, code]);
  expect(problem.title).toMatch(/\S/);
  return problem;
}

test('malformed bodies, wrong shapes and unknown ids', async ({ browser }) => {
  const {
    context: { request },
  } = await seat(browser, 'ines.okafor');
  const json = { 'content-type': 'application/json' };
  const writes: [method: 'post' | 'put', path: string][] = [
    ['post', '/api/forms'],
    ['put', `/api/forms/${TREATMENT}/design`],
    ['post', `/api/forms/${TREATMENT}/release`],
    ['put', `/api/submissions/${nobody}`],
    ['post', `/api/submissions/${nobody}/send`],
    ['post', `/api/submissions/${nobody}/decide`],
    ['post', `/api/submissions/${nobody}/withdraw`],
  ];
  for (const [method, path] of writes) {
    for (const data of [
      '{"half',
      '[]',
      '"text"',
      '{}',
      'null',
      '{"version":"one","key":1,"design":{},"title":7}',
    ])
      await expectProblem(
        await request[method](path, { headers: json, data: Buffer.from(data) }),
        422,
        'invalid',
      );
    await expectProblem(
      await request[method](path, { headers: { 'content-type': 'text/plain' }, data: '{}' }),
      403,
      'origin',
    );
    await expectProblem(
      await request[method](path, { headers: { ...json, origin: 'http://elsewhere.example' }, data: '{}' }),
      403,
      'origin',
    );
    await expectProblem(
      await request[method](path, { headers: json, data: Buffer.from(`"${'x'.repeat(2_200_000)}"`) }),
      413,
      'too-large',
    );
  }
  const key = nobody;
  for (const verb of ['send', 'withdraw'])
    await expectProblem(
      await request.post(`/api/submissions/${nobody}/${verb}`, { data: { key, version: 1 } }),
      404,
      'not-found',
    );
  await expectProblem(
    await request.post(`/api/submissions/${nobody}/decide`, {
      data: { key, version: 1, decision: 'approve', word: '' },
    }),
    404,
    'not-found',
  );
  await expectProblem(
    await request.put(`/api/submissions/${nobody}`, { data: { form: nobody, version: 0, answers } }),
    404,
    'not-found',
  );
  for (const path of [
    `/api/submissions/${nobody}`,
    '/api/submissions/not-an-id',
    `/api/forms/${nobody}/design`,
    '/api/tables/no_such_table/records',
    `/api/tables/beds/records/${nobody}`,
    '/api/tables/a%00b/records',
    '/api/nothing',
  ]) {
    const response = await request.get(path);
    expect([path, response.status()]).toEqual([path, 404]);
  }
  const problem = await expectProblem(
    await request.get(`/api/tables/beds/records?after=zero&via=${'x'.repeat(41)}`),
    422,
    'invalid',
  );
  expect(problem.issues?.map(({ path }) => path)).toEqual([['after'], ['via']]);
});

test('text that cannot be kept, too much of it, and answers of nobody', async ({ browser }) => {
  const {
    context: { request },
  } = await seat(browser, 'maren.solheim');
  const id = '01900000-0000-7000-8000-00000000aaa1';
  const raw = (text: string) =>
    Buffer.from(
      `{"form":"${TREATMENT}","version":0,"answers":{"values":{"qtrseen":${text}},"rows":{},"reasons":{}}}`,
    );
  const kept = await request.put(`/api/submissions/${id}`, {
    headers: { 'content-type': 'application/json' },
    data: raw('"a\\u0000b\\ud800c"'),
  });
  expect(kept.status()).toBe(200);
  expect((await (await request.get(`/api/submissions/${id}`)).json()).answers.values.qtrseen).toBe(
    'ab\ufffdc',
  );
  const version = (await kept.json()).version as number;
  const long = await expectProblem(
    await request.put(`/api/submissions/${id}`, {
      headers: { 'content-type': 'application/json' },
      data: Buffer.from(
        `{"form":"${TREATMENT}","version":${version},"answers":{"values":{"qtrseen":"${'x'.repeat(50_000)}"},"rows":{},"reasons":{}}}`,
      ),
    }),
    422,
    'invalid',
  );
  expect(long.issues?.[0]?.path).toEqual(['answers', 'values', 'qtrseen']);
  const send = await expectProblem(
    await request.post(`/api/submissions/${id}/send`, { data: { key: nobody, version } }),
    422,
    'invalid',
  );
  expect(send.issues?.map(({ sentence }) => sentence)).toEqual([
    'Bed is not filled',
    'Products to apply needs at least 1 row',
    '“When should it be done?” is not filled',
  ]);
  expect(
    (
      await request.delete(`/api/submissions/${id}`, { headers: { 'content-type': 'application/json' } })
    ).status(),
  ).toBe(200);
});

test('who is not signed in, and who may not', async ({ browser, playwright, baseURL }) => {
  const stranger = await playwright.request.newContext({ baseURL: baseURL ?? '' });
  for (const path of [
    '/api/home',
    '/api/forms',
    '/api/tables',
    '/api/approvals',
    '/api/waiting',
    '/api/live',
    '/api/tables/beds/records',
    `/api/forms/${TREATMENT}/design`,
  ])
    await expectProblem(await stranger.get(path), 401, 'sign-in');
  await stranger.dispose();
  const {
    context: { request },
  } = await seat(browser, 'maren.solheim');
  await expectProblem(await request.get('/api/forms'), 403, 'design');
  await expectProblem(await request.get(`/api/forms/${TREATMENT}/design`), 403, 'design');
  await expectProblem(
    await request.post(`/api/forms/${TREATMENT}/release`, { data: { version: 1 } }),
    403,
    'design',
  );
  await expectProblem(
    await request.post('/api/forms', { data: { id: nobody, title: 'Mine' } }),
    403,
    'design',
  );
});
