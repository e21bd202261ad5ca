import { sendFromOutside } from '../../../contract/outside';
import { outsideEndpoint } from '../../../http/outside-endpoint';
import { sendFromOutside as send } from '../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: sendFromOutside,
  by: 'link',
  counts: 'sent',
  submission: ({ id }) => id,
  answer: (visitor, { body }) => send(visitor, body),
});
