import { eq, sql } from 'drizzle-orm';
import type { WorkspaceInput } from '../../contract/workspace';
import type { Formats } from '../../core/formats/formats';
import type { Workspace } from '../../core/workspace';
import { appDatabase, type Tx } from '../connect';
import { ownFormats, workspace } from './schema';

/** Outside a transaction and without the rest of the catalogue: every page asks. */
export async function storedWorkspace(): Promise<
  Pick<Workspace, 'name' | 'zone' | 'formats'> & {
    /** The id of its sign; null where it has none. */
    readonly logo: string | null;
  }
> {
  const { name, zone, formats, logoId: logo } = workspace;
  return oneOf(await appDatabase().select({ name, zone, formats, logo }).from(workspace));
}

/** Its sign, if that is its id. */
export async function readLogo(tx: Tx, id: string): Promise<Buffer | null> {
  const [row] = await tx.select({ logo: workspace.logo }).from(workspace).where(eq(workspace.logoId, id));
  return row?.logo ?? null;
}

/** Another sign under another id, or none. */
export async function putLogo(tx: Tx, id: string | null, drawn: Buffer | null): Promise<void> {
  await tx.execute(sql`SELECT slate.put_logo(${id}::uuid, ${drawn}::bytea)`);
}

/** What somebody has otherwise than everybody here. */
export async function readOwnFormats(tx: Tx, who: string): Promise<Partial<Formats>> {
  const [row] = await tx
    .select({ formats: ownFormats.formats })
    .from(ownFormats)
    .where(eq(ownFormats.personId, who));
  return row?.formats ?? {};
}

export async function putOwnFormats(tx: Tx, who: string, formats: Partial<Formats>): Promise<void> {
  await tx
    .insert(ownFormats)
    .values({ personId: who, formats })
    .onConflictDoUpdate({ target: ownFormats.personId, set: { formats } });
}

/** What administrators change. */
export async function readSettings(tx: Tx): Promise<WorkspaceInput> {
  const { name, zone, currency, formats, workdays, opens, closes, holidaysOf, closed, version } = workspace;
  const found = oneOf(
    await tx
      .select({ name, zone, currency, formats, workdays, opens, closes, holidaysOf, closed, version })
      .from(workspace),
  );
  return {
    ...found,
    opens: found.opens.slice(0, 5),
    closes: found.closes.slice(0, 5),
    closed: [...found.closed],
  };
}

function oneOf<T>([row]: readonly T[]): T {
  if (row === undefined) throw new Error('the workspace has no settings');
  return row;
}

/** Changes it, with all days nobody works on; false where somebody else changed it since. The database lets administrators only. */
export async function putWorkspace(
  tx: Tx,
  { version, ...given }: WorkspaceInput & { readonly holidays: readonly string[] },
): Promise<boolean> {
  const { rows } = await tx.execute<{ put: boolean }>(
    sql`SELECT slate.put_workspace(${JSON.stringify(given)}::jsonb, ${version}::int) AS put`,
  );
  return rows[0]?.put === true;
}

/** Keeps the days nobody works on, where they are others than before: each change begins a new catalogue. */
export async function renewDaysOff(tx: Tx, days: readonly string[]): Promise<void> {
  await tx.execute(
    sql`UPDATE slate.workspace SET holidays = ${sql.param([...days])}::date[] WHERE holidays IS DISTINCT FROM ${sql.param([...days])}::date[]`,
  );
}
