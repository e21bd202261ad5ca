import { sendAgain } from '../../../contract/outside';
import { outsideEndpoint } from '../../../http/outside-endpoint';
import { sendAgain as again } from '../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: sendAgain,
  by: 'visit',
  counts: 'sent',
  answer: (visitor, { body }) => again(visitor, body),
});
