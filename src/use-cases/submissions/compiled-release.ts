import type { Catalogue } from '../../core/catalogue/catalogue';
import { compileForm, type CompiledForm } from '../../core/form/compile-form';
import type { Use } from '../../core/form/design';
import { designFor } from '../../core/form/use';
import type { ReleaseRow } from '../../data/system/forms';

/** A release is compiled once for each catalogue: neither ever changes. */
const kept = new WeakMap<Catalogue, Map<string, CompiledForm>>();

/** As it is filled in one use. A release compiled when it was made; that it no longer does is a fault, not somebody's mistake. */
export function compiled(
  catalogue: Catalogue,
  { id, design }: Pick<ReleaseRow, 'id' | 'design'>,
  use: Use = 'new',
): CompiledForm {
  const forms = kept.get(catalogue) ?? new Map<string, CompiledForm>();
  kept.set(catalogue, forms);
  const known = forms.get(`${use} ${id}`);
  if (known !== undefined) return known;
  const form = compileForm(designFor(design, use), catalogue.tables);
  if (!form.ok)
    throw new Error(`a released form does not compile: ${form.error.map(({ code }) => code).join(', ')}`);
  forms.set(`${use} ${id}`, form.value);
  return form.value;
}
