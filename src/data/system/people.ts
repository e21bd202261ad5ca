import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Colleague, Person, Role } from '../../core/access/rules';
import type { Grant, Group } from '../../core/catalogue/catalogue';
import type { AccountNews } from '../../core/wording/account-mail';
import type { Tx } from '../connect';
import { account, accountMail, person } from './schema';

const shape = {
  id: person.id,
  name: person.name,
  email: person.email,
  place: person.place,
  roles: person.roles,
};
const asPersonRow = (row: {
  id: string;
  name: string;
  email: string;
  place: string;
  roles: string[];
}): Person => ({ ...row, roles: row.roles as Role[] });

/** Those who are here and have a password. */
export async function readPeople(tx: Pick<Tx, 'select'>): Promise<Person[]> {
  const rows = await tx
    .select(shape)
    .from(person)
    .innerJoin(account, and(eq(account.userId, person.id), isNotNull(account.password)))
    .where(isNull(person.endedAt))
    .orderBy(asc(person.name));
  return rows.map(asPersonRow);
}

/** Makes a person, or changes one. The database lets administrators only. */
export async function putPerson(
  tx: Tx,
  id: string,
  { name, email, place, roles, manager, deputy }: Omit<Colleague, 'id' | 'ended'>,
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.put_person(${id}::uuid, ${name}, ${email}, ${place}, ${sql.param([...roles])}::text[], ${manager}::uuid, ${deputy}::uuid)`,
  );
}

/** The same of many at once, in one statement: each may work under any other of them. */
export async function putPeople(tx: Tx, people: readonly Omit<Colleague, 'ended'>[]): Promise<void> {
  await tx.execute(sql`SELECT slate.put_people(${JSON.stringify(people)}::jsonb)`);
}

/** Ends somebody's access and sessions at once, and hands over what they own. */
export async function endAccess(tx: Tx, id: string, to: string): Promise<void> {
  await tx.execute(sql`SELECT slate.end_access(${id}::uuid, ${to}::uuid)`);
}

/** Somebody who has lost what their codes come from signs in by their password alone; where they are signed in they have to do so again. */
export async function takeOffSecondStep(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.take_off_second_step(${id}::uuid)`);
}

export async function beginAccess(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.begin_access(${id}::uuid)`);
}

/** `mailedOf`: from what the token is made, where it is mailed as well. */
export async function invite(
  tx: Tx,
  id: string,
  { tokenHash, until, mailedOf }: { tokenHash: string; until: Date; mailedOf: string | null },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.invite(${id}::uuid, ${tokenHash}, ${until.toISOString()}::timestamptz, ${mailedOf}::uuid)`,
  );
}

/** What is to be mailed somebody about coming in. */
export interface AccountPost {
  /** Whose account it is about. */
  readonly person: string;
  readonly name: string;
  readonly email: string;
  readonly kind: AccountNews;
  /** From what the token of its link is made; null where it has none. */
  readonly tokenOf: string | null;
}

/** What a letter tells; null for somebody who has left since. */
export async function readAccountMail(tx: Tx, id: number): Promise<AccountPost | null> {
  const [row] = await tx
    .select({
      name: person.name,
      email: person.email,
      person: person.id,
      kind: accountMail.kind,
      tokenOf: accountMail.tokenOf,
    })
    .from(accountMail)
    .innerJoin(person, eq(person.id, accountMail.personId))
    .where(and(eq(accountMail.id, id), isNull(person.endedAt)));
  return row ?? null;
}

/** Those who have a password. */
export async function joined(tx: Tx): Promise<ReadonlySet<string>> {
  const rows = await tx.select({ id: account.userId }).from(account).where(isNotNull(account.password));
  return new Set(rows.map(({ id }) => id));
}

export async function putGroup(
  tx: Tx,
  id: string,
  { label, people, groups }: Omit<Group, 'id'>,
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.put_group(${id}::uuid, ${label}, ${sql.param([...people])}::uuid[], ${sql.param([...groups])}::uuid[])`,
  );
}

export async function dropGroup(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.drop_group(${id}::uuid)`);
}

/**
 * Who may do what with one form or table, all of it at once; `seen` are the ids of what stood there. False
 * when something else stands there by now.
 */
export async function putGrants(
  tx: Tx,
  on: { readonly form: string } | { readonly table: string },
  grants: readonly (Pick<Grant, 'action' | 'role' | 'groupId' | 'personId'> &
    Partial<Pick<Grant, 'where' | 'columns'>>)[],
  seen: readonly string[],
): Promise<boolean> {
  const [form, table] = 'form' in on ? [on.form, null] : [null, on.table];
  const { rows } = await tx.execute<{ put: boolean }>(
    sql`SELECT slate.put_grants(${form}::uuid, ${table}::uuid, ${JSON.stringify(grants)}::jsonb, ${sql.param([...seen])}::uuid[]) AS put`,
  );
  return rows[0]?.put === true;
}

/** Of whom a code is asked besides their password. */
export async function withSecondStep(tx: Tx): Promise<ReadonlySet<string>> {
  const rows = await tx.select({ id: person.id }).from(person).where(eq(person.twoFactorEnabled, true));
  return new Set(rows.map(({ id }) => id));
}
