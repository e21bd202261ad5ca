import { decideImport as decided } from '../../../../contract/imports';
import { endpoint } from '../../../../http/endpoint';
import { decideImport, openImport } from '../../../../use-cases/imports/decide-import';

export const GET = endpoint({ answer: (context, { id }) => openImport(context, id) });
export const PUT = endpoint({
  body: decided,
  answer: (context, { id, body }) => decideImport(context, id, body),
});
