import { and, eq, sql } from 'drizzle-orm';
import type { Tx } from '../../connect';
import { accessGrant, form, person, tableForm } from '../../system/schema';
import type { Role } from '../../../core/access/rules';

/** A new table is its maker's: they may do with it what they like, administrators may design it, and these roles see it and pick from it. */
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
}

export async function formsWritingTo(tx: Tx, table: string): Promise<WritingForm[]> {
  return tx
    .select({
      id: form.id,
      title: sql<string>`${form.design}->>'title'`,
      owner: person.name,
      state: tableForm.state,
    })
    .from(tableForm)
    .innerJoin(form, eq(form.id, tableForm.formId))
    .innerJoin(person, eq(person.id, form.ownerId))
    .where(eq(tableForm.tableId, table))
    .orderBy(tableForm.state, sql`2`);
}

/** As the owner role, for a release that its table's designers allow. */
export async function noteAllowed(tx: Tx, tables: readonly string[], formId: string): Promise<void> {
  if (tables.length === 0) return;
  await tx
    .insert(tableForm)
    .values(
      tables.map((tableId) => ({ tableId, formId, state: 'allowed' as const, byId: sql`slate.asking()` })),
    )
    .onConflictDoUpdate({
      target: [tableForm.tableId, tableForm.formId],
      set: { state: 'allowed', byId: sql`slate.asking()`, at: sql`now()` },
      setWhere: sql`${tableForm.state} = 'asked'`,
    });
}

export async function askToWrite(tx: Tx, table: string, formId: string): Promise<void> {
  await tx.execute(sql`SELECT slate.ask_table(${table}::uuid, ${formId}::uuid)`);
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
