import { may, type Catalogue } from '../../core/catalogue/catalogue';
import { freshCopy } from '../../core/form/change/fresh-copy';
import { firstForm } from '../../core/form/first-form';
import { keyFor } from '../../core/form/key';
import type { FormDesign } from '../../core/form/design';
import { prefixFor } from '../../core/table/label';
import { fail, ok, type Result } from '../../core/kernel/result';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { newShortId, newUuid } from '../../core/kernel/ids';
import { insertForm, readForm } from '../../data/system/forms';
import { tableKeysTaken } from '../../data/runtime/tables/tables';
import { copyPictures } from '../../data/system/pictures';
import { asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { designedForm } from './edit-form';

/** Makes an empty form with the id its maker chose, so that a repeat makes nothing twice. */
export async function createForm(
  context: Context,
  input: { id: string; title: string; like?: string | undefined },
): Promise<Result<{ id: string }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    if ((await readForm(tx, catalogue, input.id)) !== null) return ok({ id: input.id });
    const taken = new Set([...catalogue.forms.values()].map(({ key }) => key));
    const wanted = keyFor(input.title, taken, 'form');
    const tables = new Set(await tableKeysTaken(tx, [wanted]));
    const key = keyFor(input.title, new Set([...taken, ...tables]), 'form');
    const like = input.like === undefined ? null : await designedForm(tx, catalogue, context, input.like);
    if (like !== null && !like.ok) return like;
    const empty = emptyDesign(input.title, key, context.now);
    const design =
      like === null ? empty : { ...likeness(like.value.design, catalogue, context), title: input.title };
    await insertForm(tx, {
      id: input.id,
      key: wanted,
      ownerId: who.value.id,
      editedBy: who.value.id,
      design,
    });
    if (like !== null) await copyPictures(tx, { from: like.value.id, to: input.id, by: who.value.id });
    return ok({ id: input.id });
  });
}

/** Makes the first form of a table that is there, with its child tables as repeating rows. It is a draft until it is released. */
export async function createFormOf(
  context: Context,
  input: { id: string; table: string },
): Promise<Result<{ id: string }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    if ((await readForm(tx, catalogue, input.id)) !== null) return ok({ id: input.id });
    const { tables } = catalogue;
    const table = [...tables.values()].find(({ key }) => key === input.table);
    if (table === undefined || !may(catalogue, context.person.id, 'see', table.id))
      return fail(notFound('table'));
    const design = firstForm(table, tables, { section: newShortId(), rows: newShortId });
    const taken = new Set([...catalogue.forms.values()].map(({ key }) => key));
    await insertForm(tx, {
      id: input.id,
      key: keyFor(design.title, taken, 'form'),
      ownerId: who.value.id,
      editedBy: who.value.id,
      design,
    });
    return ok({ id: input.id });
  });
}

/** The same form anew, which writes to tables of its own. */
export function likeness(
  design: FormDesign,
  catalogue: Pick<Catalogue, 'tables' | 'forms'>,
  { now }: Context,
): FormDesign {
  const taken = new Set([...catalogue.tables.values(), ...catalogue.forms.values()].map(({ key }) => key));
  return freshCopy(design, newShortId, (table) => {
    const key = keyFor(table.key, taken, 'rows');
    taken.add(key);
    return { ...table, id: newUuid(now.getTime()), key };
  });
}

export function emptyDesign(title: string, key: string, now: Date): FormDesign {
  return {
    format: 1,
    title,
    area: '',
    sections: [{ id: newShortId(), title: '', questions: [] }],
    checks: [],
    steps: [],
    table: { id: newUuid(now.getTime()), key, label: title, prefix: prefixFor(title) },
  };
}
