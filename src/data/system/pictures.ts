import { asc, count, eq, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { formPicture } from './schema';

export type PictureRow = typeof formPicture.$inferSelect;

/** Brought again under the same id it changes nothing. */
export async function insertPicture(tx: Tx, row: typeof formPicture.$inferInsert): Promise<void> {
  await tx.insert(formPicture).values(row).onConflictDoNothing();
}

/** The picture, if whoever asks may see one of the forms that show it. */
export async function readPicture(tx: Tx, id: string): Promise<Buffer | null> {
  const rows = await tx
    .select({ bytes: formPicture.bytes })
    .from(formPicture)
    .where(eq(formPicture.id, id))
    // Under an id that is taken already, somebody could show those who see both forms something else.
    .orderBy(asc(formPicture.createdAt))
    .limit(1);
  return rows[0]?.bytes ?? null;
}

/** All of a form, in the order they were brought in. */
export const picturesOf = (tx: Tx, formId: string): Promise<Pick<PictureRow, 'id' | 'bytes'>[]> =>
  tx
    .select({ id: formPicture.id, bytes: formPicture.bytes })
    .from(formPicture)
    .where(eq(formPicture.formId, formId))
    .orderBy(asc(formPicture.createdAt), asc(formPicture.id));

export async function countPictures(tx: Tx, formId: string): Promise<number> {
  const rows = await tx.select({ n: count() }).from(formPicture).where(eq(formPicture.formId, formId));
  return rows[0]?.n ?? 0;
}

/** A form made like another shows the same pictures. */
export async function copyPictures(
  tx: Tx,
  { from, to, by }: { from: string; to: string; by: string },
): Promise<void> {
  await tx.execute(
    sql`INSERT INTO ${formPicture} (form_id, id, type, bytes, by_id)
      SELECT ${to}::uuid, id, type, bytes, ${by}::uuid FROM ${formPicture} WHERE form_id = ${from}::uuid ON CONFLICT DO NOTHING`,
  );
}
