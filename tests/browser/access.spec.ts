import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { expect, test, type APIRequestContext } from '@playwright/test';
import pg from 'pg';
import { matrix } from './access-matrix';
import { seat } from './people';

/** Every endpoint by every kind of person, from one table that one can check by eye. */
const HIDDEN = '01900000-0000-7000-9000-0000000000f0';
const ids = {
  form: '01900000-0000-7000-a000-000000000001',
  own: crypto.randomUUID(),
  sent: '',
  none: '01900000-0000-7000-8000-00000000ffff',
  fresh: '',
  hidden: 'cellar',
  hiddenId: HIDDEN,
  beds: '',
};

async function prepared(
  sender: APIRequestContext,
  owner: APIRequestContext,
): Promise<{ design: unknown; table: unknown }> {
  const client = new pg.Client({ connectionString: process.env['SLATE_ADMIN_URL'] });
  await client.connect();
  const found = await client.query<{ id: string }>(
    `SELECT s.id FROM slate.submission s JOIN slate.person p ON p.id = s.sender_id JOIN slate.ask a ON a.submission_id = s.id AND a.open JOIN slate.person t ON t.id = a.person_id
     WHERE s.form_id = $1 AND s.state = 'waiting' AND p.email LIKE 'maren.%' AND t.email LIKE 'tomasz.%' LIMIT 1`,
    [ids.form],
  );
  ids.sent = found.rows[0]?.id ?? '';
  await client.query(
    `INSERT INTO slate.designed_table (id, key, label, prefix, title) VALUES ('${HIDDEN}', 'cellar', 'Cellar', 'CE', '{}') ON CONFLICT DO NOTHING`,
  );
  await client.query(
    `INSERT INTO slate.designed_column (table_id, id, key, label, kind, required, is_unique, position) VALUES ('${HIDDEN}', 'cnote', 'note', 'Note', 'text', false, false, 0) ON CONFLICT DO NOTHING`,
  );
  await client.query(
    `INSERT INTO slate.access_grant (table_id, role, action) SELECT '${HIDDEN}', 'administrator', a FROM unnest(ARRAY['see', 'pick', 'design']) a ON CONFLICT DO NOTHING`,
  );
  const known = await client.query<{ id: string }>(`SELECT id FROM slate.designed_table WHERE key = 'beds'`);
  ids.beds = known.rows[0]?.id ?? '';
  const { rows } = await client.query<{ there: boolean }>(
    `SELECT to_regclass('records.cellar') IS NOT NULL AS there`,
  );
  if (rows[0]?.there !== true) {
    await client.query(
      `CREATE TABLE records.cellar (LIKE records.beds INCLUDING DEFAULTS); ALTER TABLE records.cellar DROP COLUMN code, DROP COLUMN name, DROP COLUMN section, DROP COLUMN area, DROP COLUMN open_to_visitors, ADD COLUMN note text; GRANT SELECT ON records.cellar TO PUBLIC`,
    );
  }
  await client.end();
  await sender.put(`/api/submissions/${ids.own}`, {
    data: { form: ids.form, version: 0, answers: { values: {}, rows: {}, reasons: {} } },
  });
  const { design } = (await (await owner.get(`/api/forms/${ids.form}/design`)).json()) as { design: unknown };
  const { tables } = (await (await owner.get('/api/tables/beds/design')).json()) as {
    tables: { key: string }[];
  };
  const beds = tables.find(({ key }) => key === 'beds');
  return { design, table: { ...beds, id: HIDDEN, key: 'cellar', label: 'Cellar', title: [], columns: [] } };
}

test('every endpoint answers every kind of person as the table says, and every endpoint is in the table', async ({
  browser,
}) => {
  const names = ['maren.solheim', 'kofi.renwick', 'tomasz.bielak', 'ines.okafor', 'wren.calloway'];
  const seats = [];
  for (const name of names) seats.push((await seat(browser, name)).context.request);
  const [maren, , , ines] = seats;
  if (maren === undefined || ines === undefined) throw new Error('nobody is there');
  const { design, table } = await prepared(maren, ines);
  expect(ids.sent).not.toBe('');
  const anonymous = (await browser.newContext()).request;
  const filled = (text: string) =>
    text.replace(/\{(\w+)\}/g, (_, name: string) =>
      name === 'fresh' ? crypto.randomUUID() : (ids[name as keyof typeof ids] ?? `{${name}}`),
    );
  const bodyOf = (body: unknown): unknown => {
    if (body === '{otherDesign}') return { ...(design as object), title: 'Another title' };
    if (body === '{hiddenTable}') return table;
    if (typeof body === 'string') return filled(body);
    if (Array.isArray(body)) return body.map(bodyOf);
    return typeof body === 'object' && body !== null
      ? Object.fromEntries(Object.entries(body).map(([name, one]) => [name, bodyOf(one)]))
      : body;
  };
  // Whoever has come by a link has what is at that, and is anybody else everywhere but at its own doors.
  const visitor = (await browser.newContext({ extraHTTPHeaders: await linkHeaders(ines) })).request;
  const wrong: string[] = [];
  for (const { ask, body, gets } of matrix) {
    const [method = '', path = ''] = ask.split(' ');
    const statuses: number[] = [];
    for (const request of [anonymous, ...seats, visitor]) {
      const answer = path.startsWith('/api/live')
        ? await streamed(request, path)
        : (
            await request.fetch(filled(path), {
              method,
              headers: { 'content-type': body === 'bytes' ? 'application/octet-stream' : 'application/json' },
              ...(body !== undefined && {
                data: body === 'bytes' ? Buffer.from('x') : JSON.stringify(bodyOf(body)),
              }),
            })
          ).status();
      statuses.push(answer);
    }
    const asVisitor = statuses.pop();
    if (!path.startsWith('/api/open/') && asVisitor !== statuses[0])
      wrong.push(`${ask}: ${asVisitor} to whoever has a link, not ${statuses[0]}`);
    if (statuses.join(' ') !== gets) wrong.push(`${ask}: ${statuses.join(' ')}, not ${gets}`);
  }
  await cleared();
  expect(wrong).toEqual([]);
  expect(endpointsWithout()).toEqual([]);
});

const SCHOOLS = '/api/forms/01900000-0000-7000-a000-000000000006';

/** As a page of ours sends them, of a link to the form for schools that is open. */
async function linkHeaders(ines: APIRequestContext): Promise<Record<string, string>> {
  const made = await ines.post(`${SCHOOLS}/links`, {
    data: { id: crypto.randomUUID(), label: 'Matrix', until: null, most: 1 },
  });
  const { links } = (await made.json()) as { links: { address: string }[] };
  return { 'x-slate-link': links[0]?.address.split('/').at(-1) ?? '' };
}

/** Nobody else’s test meets the table that was made for this one. */
async function cleared(): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['SLATE_ADMIN_URL'] });
  await client.connect();
  await client.query(
    `DELETE FROM slate.person WHERE id = '${ids.none}'; DELETE FROM slate.form WHERE design->'table'->>'id' = '${HIDDEN}'; DELETE FROM slate.table_change WHERE table_id = '${HIDDEN}'; DELETE FROM slate.designed_table WHERE id = '${HIDDEN}'; DROP TABLE records.cellar; UPDATE slate.form_link SET stopped_at = now() WHERE label = 'Matrix'`,
  );
  await client.end();
}

/** A stream has no end: its beginning is enough. */
async function streamed(request: APIRequestContext, path: string): Promise<number> {
  const { cookies } = await request.storageState();
  const origin = process.env['SLATE_ORIGIN'] ?? '';
  const abort = new AbortController();
  const answer = await fetch(`${origin}${path}`, {
    headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
    signal: abort.signal,
  });
  abort.abort();
  return answer.status;
}

/** Methods of endpoints that no line of the table names. */
function endpointsWithout(): string[] {
  const root = join(import.meta.dirname, '../../src/pages/api');
  const files = readdirSync(root, { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile())
    .map((one) => join(one.parentPath, one.name));
  const lines = matrix.map(({ ask }) => ask.split('?')[0] ?? '');
  return files.flatMap((file) => {
    const path = `/api/${relative(root, file).replace(/(\/?index)?\.ts$/, '')}`;
    const pattern = path.replace(/\[\w+\]/g, '[^/]+');
    return [
      ...readFileSync(file, 'utf8').matchAll(/^export const (GET|POST|PUT|PATCH|DELETE|ALL)\b/gm),
    ].flatMap(([, method = '']) =>
      lines.some((line) => new RegExp(`^${method} ${pattern}$`).test(line)) ? [] : [`${method} ${path}`],
    );
  });
}
