import { newLink } from '../../../../../contract/outside';
import { endpoint } from '../../../../../http/endpoint';
import { addLink } from '../../../../../use-cases/outside/keep-outside';

export const POST = endpoint({
  body: newLink,
  answer: (context, { id, body }) => addLink(context, id, body),
});
