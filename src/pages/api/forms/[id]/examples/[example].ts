import { keepExample as kept } from '../../../../../contract/rehearsals';
import { endpoint } from '../../../../../http/endpoint';
import { acceptExample, dropExample, keepExample } from '../../../../../use-cases/forms/examples';

export const PUT = endpoint({
  body: kept,
  answer: (context, { id, params, body }) => keepExample(context, id, params['example'] ?? '', body),
});
/** How it comes out now is right. */
export const POST = endpoint({
  answer: (context, { id, params }) => acceptExample(context, id, params['example'] ?? ''),
});
export const DELETE = endpoint({
  answer: (context, { id, params }) => dropExample(context, id, params['example'] ?? ''),
});
