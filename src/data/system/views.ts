import { and, asc, eq, sql } from 'drizzle-orm';
import { PLAIN_LOOK, type KeptView, type Look, type View } from '../../core/record/view';
import type { Tx } from '../connect';
import { person, tableLook, tableView } from './schema';

export async function readLook(tx: Tx, personId: string, tableId: string): Promise<Look> {
  const [row] = await tx
    .select({ look: tableLook.look })
    .from(tableLook)
    .where(and(eq(tableLook.personId, personId), eq(tableLook.tableId, tableId)));
  return row?.look ?? PLAIN_LOOK;
}

export async function keepLook(tx: Tx, personId: string, tableId: string, look: Look): Promise<void> {
  await tx
    .insert(tableLook)
    .values({ personId, tableId, look })
    .onConflictDoUpdate({ target: [tableLook.personId, tableLook.tableId], set: { look } });
}

/** The views of a table that whoever asks may see, in the order of their labels. */
export async function readViews(tx: Tx, tableId: string): Promise<KeptView[]> {
  const rows = await tx
    .select({
      id: tableView.id,
      label: tableView.label,
      ownerId: tableView.ownerId,
      owner: person.name,
      everybody: tableView.everybody,
      groups: tableView.groupIds,
      people: tableView.personIds,
      isFirst: tableView.isFirst,
      design: tableView.design,
      version: tableView.version,
    })
    .from(tableView)
    .innerJoin(person, eq(person.id, tableView.ownerId))
    .where(eq(tableView.tableId, tableId))
    .orderBy(asc(sql`lower(${tableView.label})`), asc(tableView.id));
  return rows.map(({ everybody, groups, people, ...row }) => ({
    ...row,
    for: { everybody, groups, people },
  }));
}

const kept = ({ label, for: { everybody, groups, people }, isFirst, design }: View) => ({
  label,
  everybody,
  groupIds: [...groups],
  personIds: [...people],
  isFirst,
  design,
});

/** Only one is shown first. */
async function noneFirst(tx: Tx, tableId: string): Promise<void> {
  await tx
    .update(tableView)
    .set({ isFirst: false })
    .where(and(eq(tableView.tableId, tableId), eq(tableView.isFirst, true)));
}

export async function insertView(
  tx: Tx,
  tableId: string,
  id: string,
  ownerId: string,
  view: View,
): Promise<void> {
  if (view.isFirst) await noneFirst(tx, tableId);
  await tx.insert(tableView).values({ id, tableId, ownerId, ...kept(view) });
}

/** Whether it was still at this version. */
export async function updateView(
  tx: Tx,
  tableId: string,
  id: string,
  version: number,
  view: View,
): Promise<boolean> {
  if (view.isFirst) await noneFirst(tx, tableId);
  const done = await tx
    .update(tableView)
    .set({ ...kept(view), version: version + 1, updatedAt: new Date() })
    .where(and(eq(tableView.id, id), eq(tableView.tableId, tableId), eq(tableView.version, version)))
    .returning({ id: tableView.id });
  return done.length > 0;
}

export async function deleteView(tx: Tx, id: string): Promise<void> {
  await tx.delete(tableView).where(eq(tableView.id, id));
}
