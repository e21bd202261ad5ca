import { desc, eq, sql } from 'drizzle-orm';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { designWithLists, type ChoiceList } from '../../core/table/choice-list';
import type { FormDesign } from '../../core/form/design';
import type { Tx } from '../connect';
import { choiceList, choiceListVersion, person } from './schema';

const asList = ({
  id,
  label,
  description,
  choices,
  version,
}: typeof choiceList.$inferSelect): ChoiceList => ({ id, label, description, choices, version });

/** With `lock`, nobody else changes it until the transaction ends. */
export async function readList(tx: Tx, id: string, lock = false): Promise<ChoiceList | null> {
  const query = tx.select().from(choiceList).where(eq(choiceList.id, id));
  const [row] = await (lock ? query.for('update') : query);
  return row === undefined ? null : asList(row);
}

/** Keeps a list, new or changed, and notes who did it. False when one with this id was made meanwhile. */
export async function keepList(
  tx: Tx,
  { id, label, description, choices, version }: ChoiceList,
  by: string,
): Promise<boolean> {
  const row = { label, description, choices, version };
  const kept =
    version === 1
      ? await tx
          .insert(choiceList)
          .values({ id, ...row })
          .onConflictDoNothing()
          .returning({ id: choiceList.id })
      : await tx
          .update(choiceList)
          .set({ ...row, updatedAt: sql`now()` })
          .where(eq(choiceList.id, id))
          .returning({ id: choiceList.id });
  if (kept.length === 1) await tx.insert(choiceListVersion).values({ listId: id, ...row, personId: by });
  return kept.length === 1;
}

export async function deleteList(tx: Tx, id: string): Promise<void> {
  await tx.delete(choiceList).where(eq(choiceList.id, id));
}

export interface ListVersion {
  readonly list: ChoiceList;
  readonly by: string;
  readonly at: Date;
}

/** What a list was from each change on, the newest first. */
export async function listVersions(tx: Tx, id: string, most: number): Promise<ListVersion[]> {
  const rows = await tx
    .select({ version: choiceListVersion, by: person.name })
    .from(choiceListVersion)
    .innerJoin(person, eq(person.id, choiceListVersion.personId))
    .where(eq(choiceListVersion.listId, id))
    .orderBy(desc(choiceListVersion.version))
    .limit(most);
  return rows.map(({ version: { listId, at, personId: _by, ...list }, by }) => ({
    list: { id: listId, ...list },
    by,
    at,
  }));
}

/** Designs with the choices their lists have now. */
export function withLists<T extends { design: FormDesign }>(
  { lists }: Pick<Catalogue, 'lists'>,
  rows: readonly T[],
): T[] {
  return rows.map((row) =>
    JSON.stringify(row.design.sections).includes('"list":')
      ? { ...row, design: designWithLists(row.design, lists) }
      : row,
  );
}
