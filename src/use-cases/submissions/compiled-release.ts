import type { Catalogue } from '../../core/catalogue/catalogue';
import { compileForm, type CompiledForm } from '../../core/form/compile-form';
import type { FormDesign, Use } from '../../core/form/design';
import { designFor } from '../../core/form/use';
import type { ReleaseRow } from '../../data/system/forms';

/** A release is compiled once for each catalogue: neither ever changes. What is still designed is another design at every edit. */
const kept = new WeakMap<Catalogue, WeakMap<FormDesign, Map<Use, CompiledForm>>>();

/** As it is filled in one use. A release compiled when it was made; that it no longer does is a fault, not somebody's mistake. */
export function compiled(
  catalogue: Catalogue,
  { design }: Pick<ReleaseRow, 'design'>,
  use: Use = 'new',
): CompiledForm {
  const forms = kept.get(catalogue) ?? new WeakMap<FormDesign, Map<Use, CompiledForm>>();
  kept.set(catalogue, forms);
  const uses = forms.get(design) ?? new Map<Use, CompiledForm>();
  forms.set(design, uses);
  const known = uses.get(use);
  if (known !== undefined) return known;
  const form = compileForm(designFor(design, use), catalogue.tables);
  if (!form.ok)
    throw new Error(`a released form does not compile: ${form.error.map(({ code }) => code).join(', ')}`);
  uses.set(use, form.value);
  return form.value;
}
