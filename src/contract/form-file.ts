import { z } from 'zod';
import type { FormFile } from '../core/form/form-file';
import type { JsonSchema } from '../core/kernel/json-schema';
import { limits } from '../core/limits';
import { formDesign } from './stored/form-design';

const named = z.object({ id: z.string().max(40), key: z.string().max(100) }).strict();

/** A form as a file: what is taken out is what may be taken in. */
export const formFile = z
  .object({
    format: z.literal('tidy-slate-form'),
    version: z.literal(1),
    design: formDesign,
    tables: z
      .array(named.extend({ label: z.string().max(1_000), columns: z.array(named).max(2_000) }))
      .max(limits.questions),
    people: z
      .array(z.object({ id: z.uuid(), email: z.string().max(320), name: z.string().max(1_000) }).strict())
      .max(limits.steps * limits.approvers),
    // Files that were taken out before groups could be asked and texts had pictures have neither.
    groups: z
      .array(z.object({ id: z.uuid(), label: z.string().max(1_000) }).strict())
      .max(limits.steps * limits.approvers)
      .default([]),
    pictures: z
      .array(z.object({ id: z.uuid(), bytes: z.base64().max(limits.formFileBytes) }).strict())
      .max(limits.pictures)
      .default([]),
  })
  .strict() satisfies z.ZodType<FormFile>;

/** What says that it is a form's file is one, or what is wrong with it is told; anything else is a JSON Schema. */
const formOrSchema = z.record(z.string().max(200), z.unknown()).transform((file, context) => {
  if (file['format'] !== formFile.shape.format.value) return { schema: file as JsonSchema };
  const read = formFile.safeParse(file);
  if (read.success) return { form: read.data };
  for (const { path, message } of read.error.issues) context.addIssue({ code: 'custom', path, message });
  return z.NEVER;
});

/** Taken in under the id its maker chose: a form's file, or a JSON Schema of an object. */
export const takeIn = z.object({ id: z.uuid(), file: formOrSchema }).strict();

/** The shape of a form's file, as JSON Schema 2020-12. */
export const formFileSchema = (): JsonSchema => z.toJSONSchema(formFile, { io: 'input' }) as JsonSchema;
