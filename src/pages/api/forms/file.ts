import { formFileSchema, takeIn } from '../../../contract/form-file';
import { limits } from '../../../core/limits';
import { ok } from '../../../core/kernel/result';
import { endpoint } from '../../../http/endpoint';
import { takeFormIn } from '../../../use-cases/forms/take-form';

/** The shape of a form's file, as JSON Schema. */
export const GET = endpoint({ answer: () => Promise.resolve(ok(formFileSchema())) });
export const POST = endpoint({
  body: takeIn,
  most: limits.formFileBytes,
  answer: (context, { body }) => takeFormIn(context, body),
});
