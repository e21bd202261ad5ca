import type { takeIn } from '../../contract/form-file';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { answersSchema } from '../../core/form/answers-schema';
import type { JsonSchema } from '../../core/kernel/json-schema';
import type { FormDesign } from '../../core/form/design';
import { designOfFile, formFile, type FormFile, type Unknown } from '../../core/form/form-file';
import { questionsOfSchema, withQuestions, type NotAsked } from '../../core/form/from-schema';
import { keyFor } from '../../core/form/key';
import { newUuid } from '../../core/kernel/ids';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { insertForm, listReleases, liveRelease, readForm, releaseNumbered } from '../../data/system/forms';
import { insertPicture, picturesOf } from '../../data/system/pictures';
import { asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { emptyDesign, likeness } from './create-form';
import { designedForm } from './edit-form';
import { drawnPictures } from './pictures';

/** A form as a file, as it is designed now. */
export async function takeFormOut(context: Context, id: string): Promise<Result<FormFile, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const pictures = (await picturesOf(tx, id)).map((one) => ({
      id: one.id,
      bytes: Buffer.from(one.bytes).toString('base64'),
    }));
    return ok(formFile(form.value.design, catalogue, pictures));
  });
}

/** What the live release asks for, as JSON Schema; of a form that is not released, what its draft does. */
export async function readAnswersSchema(context: Context, id: string): Promise<Result<JsonSchema, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const live = await liveRelease(tx, catalogue, id);
    return ok(answersSchema(live?.design ?? form.value.design));
  });
}

/** What of it has no place here. */
export interface TakenIn {
  readonly id: string;
  readonly unknown: Unknown;
  readonly notAsked: readonly NotAsked[];
}

/** Makes a form of a file, or of a JSON Schema: a draft of whoever brings it, which writes to tables of its own. */
export async function takeFormIn(
  context: Context,
  { id, file }: Zod<typeof takeIn>,
): Promise<Result<TakenIn, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  // Drawing takes a while, so no connection is held meanwhile.
  const pictures = await drawnPictures(file.form?.pictures ?? []);
  if (!pictures.ok) return pictures;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const nothing = { unknown: { tables: [], people: [], groups: [] }, notAsked: [] };
    if ((await readForm(tx, catalogue, id)) !== null) return ok({ id, ...nothing });
    const { design, ...left } =
      file.form === undefined
        ? fromSchema(file.schema, catalogue, context)
        : fromFile(file.form, catalogue, context);
    const taken = new Set([...catalogue.forms.values()].map(({ key }) => key));
    await insertForm(tx, {
      id,
      key: keyFor(design.title, taken, 'form'),
      ownerId: who.value.id,
      editedBy: who.value.id,
      design,
    });
    for (const picture of pictures.value)
      await insertPicture(tx, { formId: id, ...picture, type: 'image/webp', byId: who.value.id });
    return ok({ id, ...nothing, ...left });
  });
}

type Zod<S extends { readonly _output: unknown }> = S['_output'];

function fromFile(file: FormFile, catalogue: Catalogue, context: Context) {
  const { design, unknown } = designOfFile(file, catalogue);
  return { design: likeness(design, catalogue, context), unknown };
}

function fromSchema(schema: JsonSchema, catalogue: Catalogue, context: Context) {
  const title =
    typeof schema['title'] === 'string' && schema['title'].trim() !== '' ? schema['title'] : 'New form';
  const empty = emptyDesign(title, keyFor(title, new Set(), 'form'), context.now);
  const asked = questionsOfSchema(schema, (key, label) => ({
    id: newUuid(context.now.getTime()),
    key: keyFor(`${empty.table.key}_${key}`, new Set(), 'rows'),
    label: `${title}: ${label}`.slice(0, 200),
    prefix: `${empty.table.prefix}${key[0]?.toUpperCase() ?? 'L'}`.slice(0, 6),
  }));
  // Its tables get keys that nothing has here.
  return { design: likeness(withQuestions(empty, asked), catalogue, context), notAsked: asked.notAsked };
}

/** A release as it was made, and the one before it. */
export async function readFormRelease(
  context: Context,
  id: string,
  number: number,
): Promise<Result<{ design: FormDesign; before: FormDesign | null }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const release = await releaseNumbered(tx, catalogue, id, number);
    if (release === null) return fail(notFound('release'));
    const earlier = (await listReleases(tx, id)).find((one) => one.number < number);
    const before = earlier === undefined ? null : await releaseNumbered(tx, catalogue, id, earlier.number);
    return ok({ design: release.design, before: before?.design ?? null });
  });
}
