import pg from 'pg';
import { afterAll, beforeAll, expect, inject } from 'vitest';
import { bedInspection, plantIntake, treatmentRequest } from '../../demo/forms';
import { personNamed } from '../../demo/people';
import { baseTables } from '../../demo/tables';
import type { Person } from '../../src/core/access/rules';
import type { Answers } from '../../src/core/form/answers';
import type { Table } from '../../src/core/table/model';
import type { FormDesign } from '../../src/core/form/design';
import type { Refusal } from '../../src/core/kernel/refusal';
import { ok, type Result } from '../../src/core/kernel/result';
import { closeConnections } from '../../src/data/connect';
import { insertForm } from '../../src/data/system/forms';
import { loginUrl } from '../../src/data/system/migrate';
import { copyDatabase, makeTables, query, WITH_PEOPLE, WITH_TABLES } from './world-templates';
import { asOwner } from '../../src/data/transaction';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { saveDraft } from '../../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';

/** A database of its own for one test file: our schema, the garden's people and tables, no past. */
export interface World {
  /** Plain SQL as the owner of the cluster, to look behind the application. */
  readonly sql: (text: string, values?: unknown[]) => Promise<Record<string, unknown>[]>;
  /** Plain SQL as the application role. */
  readonly appUrl: string;
  /** As the cluster's owner, for what must be made beside the application. */
  readonly ownerUrl: string;
  readonly close: () => Promise<void>;
}

/** Plain connections. One that is being closed may meet the end of its database, and nobody listens to it any more: that is no fault of a test. */
export function poolAt(url: string): pg.Pool {
  const pool = new pg.Pool({ connectionString: url, max: 2 });
  pool.on('error', () => undefined);
  pool.on('connect', (client) => client.on('error', () => undefined));
  return pool;
}

/** `tables` are those that stand before any form does. */
export async function makeWorld(tables: readonly Table[] = baseTables): Promise<World> {
  const { server, owner, app } = inject('templates');
  const name = `t_${crypto.randomUUID().replaceAll('-', '').slice(0, 12)}`;
  const whole = tables === baseTables;
  await copyDatabase(server, { from: whole ? WITH_TABLES : WITH_PEOPLE, to: name, owner: owner.name });
  const admin = new URL(server);
  admin.pathname = `/${name}`;
  const url = admin.toString();
  process.env['SLATE_OWNER_URL'] = loginUrl(url, owner);
  process.env['SLATE_APP_URL'] = loginUrl(url, app);
  process.env['SLATE_LOG'] = 'silent';
  if (!whole) await makeTables(tables);
  const pool = poolAt(url);
  return {
    sql: async (text, values) => (await pool.query<Record<string, unknown>>(text, values)).rows,
    appUrl: loginUrl(url, app),
    ownerUrl: url,
    close: async () => {
      await Promise.all([pool.end(), closeConnections()]);
      await query(server, `DROP DATABASE ${name} WITH (FORCE)`);
    },
  };
}

/** A world for the tests of a file: made before them, together with what `set` puts there, and taken away after them. */
export function useWorld(
  set: (world: World) => Promise<void> = async () => {},
  tables?: readonly Table[],
): World {
  let made: World | null = null;
  const there = (): World => {
    if (made === null) throw new Error('the world is there once the tests run');
    return made;
  };
  beforeAll(async () => {
    made = await makeWorld(tables);
    await set(made);
  });
  afterAll(() => made?.close());
  return {
    sql: (text, values) => there().sql(text, values),
    get appUrl() {
      return there().appUrl;
    },
    get ownerUrl() {
      return there().ownerUrl;
    },
    close: () => there().close(),
  };
}

export async function must<T>(result: Promise<Result<T, Refusal>>): Promise<T> {
  const settled = await result;
  if (!settled.ok) throw new Error(JSON.stringify(settled.error));
  return settled.value;
}

/** The refusal of a use case that must refuse. */
export async function refusal(result: Promise<Result<unknown, Refusal>>): Promise<Refusal> {
  const settled = await result;
  expect(settled.ok).toBe(false);
  if (settled.ok) throw new Error('it was not refused');
  return settled.error;
}

export const at = new Date('2026-11-23T12:00:00Z');
export const as = (name: string, now = at): { person: Person; now: Date } => ({
  person: personNamed(name),
  now,
});

export const formIds = {
  treatment: '01900000-0000-7000-a000-000000000001',
  intake: '01900000-0000-7000-a000-000000000002',
  inspection: '01900000-0000-7000-a000-000000000003',
};

/** The three sample forms, released. */
export async function releaseSampleForms(): Promise<void> {
  const forms: [string, string, FormDesign][] = [
    [formIds.treatment, 'treatment_request', treatmentRequest],
    [formIds.intake, 'plant_intake', plantIntake],
    [formIds.inspection, 'bed_inspection', bedInspection],
  ];
  for (const [id, key, design] of forms) {
    await must(
      asOwner({ person: personNamed('Ines').id }, async (tx) =>
        ok(
          await insertForm(tx, {
            id,
            key,
            design,
            ownerId: personNamed('Ines').id,
            editedBy: personNamed('Ines').id,
          }),
        ),
      ),
    );
    await must(releaseForm(as('Ines'), id, { version: 1, fill: 'everybody' }));
  }
}

export interface Garden {
  readonly bed: string;
  readonly soap: string;
  readonly nemavar: string;
}

/** One bed and two products to pick from. */
export async function plantGarden({ sql }: World): Promise<Garden> {
  const id = async (text: string): Promise<string> => String((await sql(text))[0]?.['id']);
  return {
    bed: await id(
      `INSERT INTO records.beds (code, name, section, area) VALUES ('G4-12', 'Fern house, north bench', 'Fern house', 18.50) RETURNING id`,
    ),
    soap: await id(
      `INSERT INTO records.products (name, max_rate, in_stock, restricted) VALUES ('Soft soap spray 2%', 80, 4000, false) RETURNING id`,
    ),
    nemavar: await id(
      `INSERT INTO records.products (name, max_rate, in_stock, restricted) VALUES ('Nemavar drench', 40, 900, true) RETURNING id`,
    ),
  };
}

export const treatmentAnswers = ({ bed, soap, nemavar }: Garden): Answers => ({
  values: { qtrbed: bed, qtrplanned: '2026-11-25', qtrclosed: true, qtrseen: 'Scale' },
  rows: {
    qtrlines: [
      { id: 'r1', cells: { qtrproduct: soap, qtrrate: '60' } },
      { id: 'r2', cells: { qtrproduct: nemavar, qtrrate: '30' } },
    ],
  },
  reasons: {},
});

/** A sound inspection of a bed where no pests were seen, with what else is answered or answered otherwise. */
export const inspectionAnswers = (bed: string, more: Answers['values']): Answers => ({
  values: {
    qbibed: bed,
    qbion: '2026-11-20',
    qbistate: 'fair',
    qbidead: '0',
    qbipests: false,
    ...more,
  },
  rows: {},
  reasons: {},
});

export const newId = (): string => crypto.randomUUID();

/** A draft, kept once; gives what sending needs. */
export async function draft(
  name: string,
  form: string,
  answers: Answers,
): Promise<{ id: string; version: number }> {
  const id = newId();
  const { version } = await must(saveDraft(as(name), id, { form, version: 0, answers }));
  return { id, version };
}

export async function sent(
  name: string,
  form: string,
  answers: Answers,
): Promise<{ id: string; version: number; number: string; state: string }> {
  const { id, version } = await draft(name, form, answers);
  const done = await must(sendSubmission(as(name), id, { key: newId(), version }));
  return { id, version: done.version, number: done.number, state: done.state };
}
