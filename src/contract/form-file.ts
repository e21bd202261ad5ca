import { z } from 'zod';
import type { FormFile } from '../core/form/form-file';
import type { JsonSchema } from '../core/form/answers-schema';
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
  })
  .strict() satisfies z.ZodType<FormFile>;

/** Taken in under the id its maker chose: a form's file, or a JSON Schema of an object. */
export const takeIn = z
  .object({ id: z.uuid(), file: z.union([formFile, z.record(z.string().max(200), z.unknown())]) })
  .strict();

export const isFormFile = (file: z.infer<typeof takeIn>['file']): file is z.infer<typeof formFile> =>
  formFile.safeParse(file).success;

/** The shape of a form's file, as JSON Schema 2020-12. */
export const formFileSchema = (): JsonSchema => z.toJSONSchema(formFile, { io: 'input' }) as JsonSchema;
