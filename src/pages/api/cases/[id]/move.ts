import { moveCase as moved } from '../../../../contract/waiting-cases';
import { endpoint } from '../../../../http/endpoint';
import { moveCase } from '../../../../use-cases/submissions/move-case';

export const POST = endpoint({
  body: moved,
  answer: (context, { id, body }) => moveCase(context, id, body),
});
