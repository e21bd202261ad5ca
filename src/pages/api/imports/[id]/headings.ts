import { headingsOf } from '../../../../contract/imports';
import { endpoint } from '../../../../http/endpoint';
import { readWithHeadings } from '../../../../use-cases/imports/decide-import';

export const POST = endpoint({
  body: headingsOf,
  answer: (context, { id, body }) => readWithHeadings(context, id, body),
});
