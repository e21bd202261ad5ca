import { compileForm } from '../core/form/compile-form';
import type { FormDesign } from '../core/form/design';

/** A release compiled when it was made; that it no longer does is a fault, not somebody's mistake. */
export function compiled(design: FormDesign, tables: Parameters<typeof compileForm>[1]) {
  const form = compileForm(design, tables);
  if (!form.ok)
    throw new Error(`a released form does not compile: ${form.error.map(({ code }) => code).join(', ')}`);
  return form.value;
}
