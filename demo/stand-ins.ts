import pg from 'pg';
import type { SourceAddress } from '../src/core/link/source';
import { ok } from '../src/core/kernel/result';
import { moveSourceServer } from '../src/data/runtime/links/link-tables';
import { linksOf, reachesOthers, readSource, updateSource } from '../src/data/system/links';
import { sealed } from '../src/data/secret';
import { putAddress, readAddress } from '../src/data/system/events';
import { asOwner, asPerson } from '../src/data/transaction';
import { keepSource } from '../src/use-cases/links/keep-source';
import { linkTables } from '../src/use-cases/links/link-tables';
import { refreshLink } from '../src/use-cases/links/refresh-link';
import { must } from './must';
import { REGISTER_HEADER, serveRegisters } from './registers';
import { personNamed } from './people';
import { makeSeedExchange } from './seed-exchange';

/** The outside services of the sample world, and the tables that are linked to them. */
const exchangeId = '01900000-0000-7000-b000-000000000001';
const registerId = '01900000-0000-7000-b000-000000000002';
const staffId = '01900000-0000-7000-b000-000000000004';

/** The environment says where they are; without it the sample world has none. */
export async function linkStandIns(now: Date): Promise<void> {
  const { SLATE_ADMIN_URL: admin, SLATE_REGISTER_PORT: port, SLATE_REGISTER_KEY: key } = process.env;
  const [wren, ines] = [
    { person: personNamed('Wren'), now },
    { person: personNamed('Ines'), now },
  ];
  if (admin !== undefined && (await mayMakeDatabases(admin))) {
    const password = crypto.randomUUID();
    const address = await makeSeedExchange(admin, password);
    await must(
      keepSource(wren, exchangeId, { version: 0, label: 'Seed exchange', address, secret: password }),
    );
    await linked(ines, exchangeId, ['catalogue.gardens', 'catalogue.lots']);
  }
  await tellNoticeboard();
  if (port === undefined || key === undefined) return;
  const register = await serveRegisters(Number(port), key);
  try {
    await must(
      keepSource(wren, registerId, {
        version: 0,
        label: 'Plant names',
        address: listAddress(port, 'names'),
        secret: key,
      }),
    );
    // There to be followed; nobody does so far.
    await must(
      keepSource(wren, staffId, {
        version: 0,
        label: 'Staff list',
        address: listAddress(port, 'staff'),
        secret: key,
      }),
    );
    await linked(ines, registerId, []);
  } finally {
    await new Promise((closed) => register.close(closed));
  }
}

const listAddress = (port: string, path: 'names' | 'staff'): SourceAddress => ({
  t: 'list',
  url: `http://127.0.0.1:${port}/${path}`,
  header: REGISTER_HEADER,
});

const noticeboardId = '01900000-0000-7000-b000-000000000003';

/** A noticeboard outside is told of schools that come, and of what is done for plants, as their owner sees it. */
async function tellNoticeboard(): Promise<void> {
  const { SLATE_NOTICEBOARD_PORT: port, SLATE_NOTICEBOARD_SECRET: secret } = process.env;
  if (port === undefined || secret === undefined) return;
  const url = `http://127.0.0.1:${port}/events`;
  await must(
    asPerson({ person: personNamed('Wren').id }, async (tx, { tables, forms }) => {
      const there = await readAddress(tx, noticeboardId);
      if (there?.url === url) return ok(null);
      const idOf = (all: typeof tables | typeof forms, key: string): string[] =>
        [...all.values()].filter((one) => one.key === key).map(({ id }) => id);
      await putAddress(
        tx,
        noticeboardId,
        {
          label: 'Noticeboard of the friends of the garden',
          url,
          person: there?.personId ?? personNamed('Ines').id,
          tables: there?.tableIds ?? idOf(tables, 'treatments'),
          forms: there?.formIds ?? idOf(forms, 'school_visit'),
          kinds: there?.kinds ?? ['record.made', 'record.removed', 'submission.kept'],
          secret: there === null ? sealed(secret, noticeboardId) : null,
          version: there?.version ?? 0,
        },
        new Date(),
      );
      return ok(null);
    }),
  );
}

/** The ports may have changed since the last start. */
export async function settleStandIns(): Promise<void> {
  if (await isTold()) await tellNoticeboard();
  const { SLATE_ADMIN_URL: admin, SLATE_REGISTER_PORT: port } = process.env;
  await must(
    asOwner({ person: personNamed('Wren').id }, async (tx) => {
      const exchange = await readSource(tx, exchangeId);
      const here = admin === undefined ? null : new URL(admin);
      if (
        exchange?.address.t === 'database' &&
        here !== null &&
        exchange.address.port !== Number(here.port)
      ) {
        await updateSource(tx, exchangeId, {
          address: { ...exchange.address, host: here.hostname, port: Number(here.port) },
        });
        await moveSourceServer(tx, exchangeId, here.hostname);
      }
      if (port !== undefined)
        for (const [id, path] of [
          [registerId, 'names'],
          [staffId, 'staff'],
        ] as const) {
          const [list, address] = [await readSource(tx, id), listAddress(port, path)];
          if (list !== null && JSON.stringify(list.address) !== JSON.stringify(address))
            await updateSource(tx, id, { address });
        }
      return ok(null);
    }),
  );
}

/** Somebody may have removed it. */
const isTold = async (): Promise<boolean> => {
  const found = await asPerson({ person: personNamed('Wren').id }, async (tx) =>
    ok((await readAddress(tx, noticeboardId)) !== null),
  );
  return found.ok && found.value;
};

/** Their first records are there before anybody looks. */
async function linked(
  context: Parameters<typeof linkTables>[0],
  id: string,
  tables: readonly string[],
): Promise<void> {
  await must(linkTables(context, id, { tables, every: 5 }));
  const links = await must(asOwner({ person: '' }, async (tx) => ok(await linksOf(tx, id))));
  // Twice, so that what refers to others finds them whatever the order.
  for (const { tableId } of [...links, ...links]) await refreshLink(tableId);
}

/** On a database somebody gave us we may have neither the right to make another nor the way to reach it. */
async function mayMakeDatabases(admin: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  try {
    const { rows } = await client.query<{ may: boolean }>(
      'SELECT rolsuper OR (rolcreatedb AND rolcreaterole) AS may FROM pg_roles WHERE rolname = current_user',
    );
    return (
      rows[0]?.may === true &&
      (await must(asOwner({ person: '' }, async (tx) => ok(await reachesOthers(tx)))))
    );
  } finally {
    await client.end();
  }
}
