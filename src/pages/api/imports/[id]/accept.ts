import { acceptImport as accepted } from '../../../../contract/imports';
import { endpoint } from '../../../../http/endpoint';
import { acceptImport } from '../../../../use-cases/imports/decide-import';

export const POST = endpoint({
  body: accepted,
  answer: (context, { id, body }) => acceptImport(context, id, body),
});
