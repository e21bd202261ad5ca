import { mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import type { FormDesign } from '../../core/form/design';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { readForm, updateDesign, type FormRow } from '../../data/system/forms';
import { sameJson } from '../../core/kernel/same-json';
import type { Tx } from '../../data/connect';
import { asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';

/** Keeps an edit of a form's draft. Somebody else's edit in between is never overwritten. */
export async function editForm(
  context: Context,
  id: string,
  input: { version: number; design: FormDesign },
): Promise<Result<{ version: number }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    // Where the rows go is fixed when the form is made; only its name may be edited.
    const design = { ...input.design, table: { ...input.design.table, id: form.value.design.table.id } };
    // What is there already is no edit; others are not told of it.
    if (form.value.version === input.version && sameJson(form.value.design, design))
      return ok({ version: input.version });
    if (await updateDesign(tx, id, input.version, design, context.person.id))
      return ok({ version: input.version + 1 });
    // Sent again, because the answer to it was lost.
    if (form.value.editedBy === context.person.id && sameJson(form.value.design, design))
      return ok({ version: form.value.version });
    const by = catalogue.people.get(form.value.editedBy);
    return fail(stale('design-changed', { by: by?.name ?? null, version: form.value.version }));
  });
}

/** The form, if this person may design it. */
export async function designedForm(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  id: string,
  lock = false,
): Promise<Result<FormRow, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  const form = await readForm(tx, catalogue, id, lock);
  if (form === null) return fail(notFound('form'));
  return mayForm(catalogue, who.value.id, 'design', form.id) ? ok(form) : fail(forbidden('own-only'));
}
