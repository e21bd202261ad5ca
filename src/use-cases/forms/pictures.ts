import { isPhoto } from '../../core/form/file';
import { isUuid } from '../../core/kernel/ids';
import type { PictureInFile } from '../../core/form/form-file';
import { issue, type Issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { countPictures, insertPicture, readPicture } from '../../data/system/pictures';
import { readLogo } from '../../data/system/workspace';
import { asPerson } from '../../data/transaction';
import { drawnForText, typeOf } from '../../files/photos';
import { whole, type OpenedFile } from '../files/open-file';
import type { Context } from '../workspace/asking';
import { designedForm } from './edit-form';

/** Keeps a picture for the fixed texts of a form, small enough for a screen, under the id its maker chose. */
export async function addPicture(
  context: Context,
  form: string,
  id: string,
  bytes: Buffer,
): Promise<Result<{ id: string }, Refusal>> {
  if (!isUuid(id)) return fail(notFound('file'));
  const may = await asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const designed = await designedForm(tx, catalogue, context, form);
    if (!designed.ok) return designed;
    return (await countPictures(tx, form)) < limits.pictures
      ? ok(null)
      : fail(invalid(issue('too-many', [], { what: 'pictures', most: limits.pictures })));
  });
  if (!may.ok) return may;
  // Drawing takes a while, so no connection is held meanwhile.
  const drawn = await drawnAnew(bytes, []);
  if (!drawn.ok) return drawn;
  return asPerson({ person: context.person.id }, async (tx) => {
    await insertPicture(tx, {
      formId: form,
      id,
      type: 'image/webp',
      bytes: drawn.value,
      byId: context.person.id,
    });
    return ok({ id });
  });
}

/** The pictures of a form's file, as safe to show as those brought one by one. */
export async function drawnPictures(
  pictures: readonly PictureInFile[],
): Promise<Result<readonly { readonly id: string; readonly bytes: Buffer }[], Refusal>> {
  const all = [];
  for (const [i, { id, bytes }] of pictures.entries()) {
    const drawn = await drawnAnew(Buffer.from(bytes, 'base64'), ['file', 'pictures', String(i)]);
    if (!drawn.ok) return drawn;
    all.push({ id, bytes: drawn.value });
  }
  return ok(all);
}

/** Whatever else was in the file stays out of the database. */
async function drawnAnew(bytes: Buffer, path: Issue['path']): Promise<Result<Buffer, Refusal>> {
  if (!isPhoto(await typeOf(bytes))) return fail(invalid(issue('not-a-photo', path)));
  const drawn = await drawnForText(bytes);
  return drawn === null ? fail(invalid(issue('file-broken', path))) : ok(drawn);
}

/** A picture for whoever may see a form that shows it; the database decides that. */
export const openPicture = (context: Context, id: string): Promise<Result<OpenedFile, Refusal>> =>
  pictureFor(context.person.id, id);
/** The same for whoever is not signed in. */
export const openPictureToAll = (id: string): Promise<Result<OpenedFile, Refusal>> => pictureFor('', id);

const pictureFor = (person: string, id: string): Promise<Result<OpenedFile, Refusal>> =>
  asPerson({ person }, async (tx) => {
    // The sign of the organisation first, so that nobody shows another one under its id.
    const bytes = (await readLogo(tx, id)) ?? (await readPicture(tx, id));
    if (bytes === null) return fail(notFound('file'));
    return ok({
      name: 'picture.webp',
      type: 'image/webp',
      size: bytes.length,
      inline: true,
      body: whole(bytes),
    });
  });
