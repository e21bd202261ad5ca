import { and, eq, sql, type SQL } from 'drizzle-orm';
import type { Tx } from '../../connect';
import { accessGrant, form, person, tableForm } from '../../system/schema';
import type { Role } from '../../../core/access/rules';
import type { WriteUse } from '../../../core/storage/further-write';

/**
 * A new table is its maker's: they may do with it what they like, administrators may design it, and these
 * roles see it and pick from it.
 */
export async function grantNewTable(tx: Tx, table: string, seenBy: readonly Role[]): Promise<void> {
  const toRoles = [
    ...seenBy.flatMap((role) => (['see', 'pick'] as const).map((action) => ({ role, action }))),
    { role: 'administrator' as const, action: 'design' as const },
  ];
  await tx
    .insert(accessGrant)
    .values(toRoles.map(({ role, action }) => ({ tableId: table, role, action })))
    .onConflictDoNothing();
  await tx.execute(
    sql`INSERT INTO slate.access_grant (table_id, person_id, action) SELECT ${table}::uuid, p.id, a.action FROM slate.person p, unnest(ARRAY['see', 'add', 'change', 'remove', 'pick', 'design']) AS a (action) WHERE p.id = slate.asking() ON CONFLICT DO NOTHING`,
  );
}

/** A form that writes to a table, or asks to. */
export interface WritingForm {
  readonly id: string;
  readonly title: string;
  readonly owner: string;
  readonly state: 'asked' | 'allowed';
  /** What it may do here, and what it asks for beyond that. */
  readonly covers: readonly WriteUse[];
  readonly asks: readonly WriteUse[];
}

export async function formsWritingTo(tx: Tx, table: string): Promise<WritingForm[]> {
  return tx
    .select({
      id: form.id,
      title: sql<string>`${form.design}->>'title'`,
      owner: person.name,
      state: tableForm.state,
      covers: tableForm.covers,
      asks: tableForm.asks,
    })
    .from(tableForm)
    .innerJoin(form, eq(form.id, tableForm.formId))
    .innerJoin(person, eq(person.id, form.ownerId))
    .where(eq(tableForm.tableId, table))
    .orderBy(tableForm.state, sql`2`);
}

/** What a form does to one table. */
export interface WritesTo {
  readonly table: string;
  readonly uses: readonly WriteUse[];
}

/** As the owner role, for a release that its tables' designers allow. */
export async function noteAllowed(tx: Tx, formId: string, writes: readonly WritesTo[]): Promise<void> {
  if (writes.length === 0) return;
  const joined = (before: SQL): SQL =>
    sql`ARRAY(SELECT unnest(${before}) UNION SELECT unnest(excluded.covers))`;
  await tx
    .insert(tableForm)
    .values(
      writes.map(({ table, uses }) => ({
        tableId: table,
        formId,
        state: 'allowed' as const,
        covers: [...uses],
        byId: sql`slate.asking()`,
      })),
    )
    .onConflictDoUpdate({
      target: [tableForm.tableId, tableForm.formId],
      set: {
        state: 'allowed',
        covers: joined(sql`${tableForm.covers}`),
        asks: sql`ARRAY(SELECT unnest(${tableForm.asks}) EXCEPT SELECT unnest(excluded.covers))`,
        byId: sql`slate.asking()`,
        at: sql`now()`,
      },
      setWhere: sql`${tableForm.state} = 'asked' OR NOT ${tableForm.covers} @> excluded.covers`,
    });
}

export async function askToWrite(tx: Tx, { table, uses }: WritesTo, formId: string): Promise<void> {
  await tx.execute(
    sql`SELECT slate.ask_table(${table}::uuid, ${formId}::uuid, ${sql.param([...uses])}::text[])`,
  );
}

export async function allowToWrite(tx: Tx, table: string, formId: string, allowed: boolean): Promise<void> {
  await tx.execute(sql`SELECT slate.allow_form(${table}::uuid, ${formId}::uuid, ${allowed})`);
}

/** The tables a form may write to. */
export async function tablesOfForm(tx: Tx, formId: string): Promise<string[]> {
  const rows = await tx
    .select({ table: tableForm.tableId })
    .from(tableForm)
    .where(and(eq(tableForm.formId, formId), eq(tableForm.state, 'allowed')));
  return rows.map(({ table }) => table);
}

/** As the owner role, for the first release of a form of which nobody has said who fills it: everybody does. */
export async function grantFilling(tx: Tx, formId: string): Promise<void> {
  await tx
    .insert(accessGrant)
    .values({ formId, action: 'fill', byId: sql`slate.asking()` })
    .onConflictDoNothing();
}
