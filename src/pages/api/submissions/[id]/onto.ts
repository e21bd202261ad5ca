import { goOnto } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { goOnto as go } from '../../../../use-cases/submissions/go-onto';

export const POST = endpoint({
  body: goOnto,
  answer: (context, { id, body }) => go(context, id, body),
});
