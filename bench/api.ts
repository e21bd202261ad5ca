import { sql } from 'drizzle-orm';
import { personNamed } from '../demo/people';
import { beds, taxa } from '../demo/tables';
import { newUuid } from '../src/core/kernel/ids';
import { ok } from '../src/core/kernel/result';
import { closeConnections } from '../src/data/connect';
import { asOwner } from '../src/data/transaction';
import { listRecords } from '../src/use-cases/api/list-records';
import { writeRecords, type SentEdit } from '../src/use-cases/api/write-records';
import { byToken, takeBySecret } from '../src/use-cases/tokens/by-token';
import { addToken } from '../src/use-cases/tokens/keep-tokens';
import { storedRowRule } from '../src/core/record/row-rules';
import { sayWhoOfTable, whoOfTable } from '../src/use-cases/people/say-who';
import { openRecords } from '../src/use-cases/records/open-records';
import { readFacets } from '../src/use-cases/records/read-facets';
import { against, asIs, compare, ines, makeMany, many, must, plainly } from './many';

/** What a program asks of a table of many records by its token, against SQL written by hand: the token is taken each time, as with each request. */
await makeMany();
const wren = { person: personNamed('Wren'), now: ines.now };
const on = (tableId: string, ...actions: ('see' | 'add')[]) =>
  actions.map((action) => ({ tableId, formId: null, action }));
const until = new Date(Date.now() + 100 * 86_400_000).toISOString().slice(0, 10);
const { secret } = await must(
  addToken(wren, newUuid(), {
    label: 'Measuring',
    person: ines.person.id,
    until,
    grants: [...on(many.id, 'see', 'add'), ...on(beds.id, 'see'), ...on(taxa.id, 'see')],
  }),
);
/** In a minute of its own each time: how often one may ask is not what is measured. */
let minute = Date.now();
const taken = async () => {
  const now = new Date((minute += 60_000));
  return { token: await must(takeBySecret(secret, now)), now };
};
const list = (more: object) => async () => {
  const { token, now } = await taken();
  const query = { where: '', find: '', sort: '-quantity', columns: '', limit: 50, count: false, ...more };
  await must(byToken(token, now, (context) => listRecords(context, 'many', query)));
};
const titled = 'LEFT JOIN records.beds b ON b.id = t.bed LEFT JOIN records.taxa x ON x.id = t.taxon';
const hand = (where: string) =>
  `SELECT t.*, b.code, b.name AS bed_name, x.name AS taxon_name FROM (SELECT * FROM records.many WHERE removed_at IS NULL ${where} ORDER BY quantity DESC NULLS LAST, id DESC LIMIT 51) t ${titled} ORDER BY t.quantity DESC NULLS LAST, t.id DESC`;
await compare('50 by a token', list({}), hand(''));
await compare(
  '50 by a token, two conditions, one through a reference',
  list({ where: 'state in ("a") and bed.section = "Fern house"' }),
  hand(`AND state = 'a' AND bed = ANY (ARRAY(SELECT id FROM records.beds WHERE section = 'Fern house'))`),
);

const ADDED = 1_000;
const [bed, taxon] = await must(
  asOwner({ person: ines.person.id }, async (tx) => {
    const ids = await tx.execute<{ bed: string; taxon: string }>(
      sql`SELECT (SELECT id FROM records.beds LIMIT 1) AS bed, (SELECT id FROM records.taxa LIMIT 1) AS taxon`,
    );
    return ok([ids.rows[0]?.bed ?? '', ids.rows[0]?.taxon ?? ''] as const);
  }),
);
const edits = Array.from({ length: ADDED }, (_, i): SentEdit => ({
  op: 'add',
  values: {
    name: `Frond ${i}`,
    note: 'added',
    quantity: i,
    price: '1.25',
    seen: '2026-11-30',
    wild: true,
    state: 'a',
    bed,
    taxon,
  },
}));
/** By hand in one statement, with numbers of no counter; the trail is kept by triggers for both. */
await compare(
  `adding ${ADDED} in a batch`,
  async () => {
    const { token, now } = await taken();
    await must(
      byToken(token, now, (context) =>
        writeRecords(context, 'many', { key: newUuid(), edits, at: () => [] }),
      ),
    );
  },
  `INSERT INTO records.many (id, number, name, note, quantity, price, seen, wild, state, bed, taxon, created_by, updated_by)
   SELECT gen_random_uuid(), 'H-' || gen_random_uuid(), 'Frond ' || n, 'added', n, 1.25, DATE '2026-11-30', true, 'a', '${bed}', '${taxon}', '${ines.person.id}', '${ines.person.id}' FROM generate_series(1, ${ADDED}) n`,
);
/**
 * Somebody who sees some of the records, by a rule, against somebody who sees all of them and asks for the same ones: the use cases alike, and what the policy costs
 * by itself in plain SQL.
 */
const maren = { person: personNamed('Maren'), now: ines.now };
await asIs(
  `DELETE FROM slate.access_grant WHERE table_id = '${many.id}' AND (role = 'colleague' OR role IS NULL AND person_id IS NULL)`,
);
for (const [told, rule, condition] of [
  ['a number of its own', 'quantity > 490', 'quantity > 490'],
  [
    'what it refers to',
    'bed.section = me.place',
    `bed = ANY (ARRAY(SELECT id FROM records.beds WHERE section = '${maren.person.place}'))`,
  ],
] as const) {
  // Not as picking would have made it, for a facet is counted without what was picked about it.
  const where = `${rule.replace('me.place', `"${maren.person.place}"`)} and true`;
  const tables = new Map([many, beds, taxa].map((table) => [table.id, table]));
  const nobody = { role: null, groupId: null, personId: null };
  const { grants } = await must(whoOfTable(ines, 'many'));
  const kept = grants.flatMap(({ action, role, groupId, personId, where: limited }) =>
    limited === null ? [{ action, role, groupId, personId, where: null }] : [],
  );
  const limited = {
    ...nobody,
    personId: maren.person.id,
    action: 'see' as const,
    where: storedRowRule(rule, many, tables),
  };
  await must(sayWhoOfTable(ines, 'many', { grants: [...kept, limited], seen: grants.map(({ id }) => id) }));
  const open = (who: typeof ines, more: object) => () =>
    must(openRecords(who, 'many', { sort: '-quantity', ...more }));
  await against(`a page of those by ${told}`, open(maren, {}), open(ines, { where }));
  const facets = (who: typeof ines, of: string) => () =>
    must(readFacets(who, 'many', { find: '', where: of, about: false }));
  await against(`facets of those by ${told}`, facets(maren, ''), facets(ines, where));
  await against(
    `counted in plain SQL, those by ${told}`,
    plainly(maren, `SELECT count(*) FROM records.many WHERE removed_at IS NULL AND ${condition}`),
    plainly(ines, `SELECT count(*) FROM records.many WHERE removed_at IS NULL AND ${condition}`),
  );
}
await asIs('DROP TABLE records.many CASCADE');
await closeConnections();
