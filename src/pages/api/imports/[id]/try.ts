import { acceptImport as accepted } from '../../../../contract/imports';
import { endpoint } from '../../../../http/endpoint';
import { tryOutImport } from '../../../../use-cases/imports/decide-import';

export const POST = endpoint({
  body: accepted,
  answer: (context, { id, body }) => tryOutImport(context, id, body),
});
