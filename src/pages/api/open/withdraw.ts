import { sendSubmission } from '../../../contract/requests';
import { outsideEndpoint } from '../../../http/outside-endpoint';
import { withdrawFromOutside } from '../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: sendSubmission,
  by: 'visit',
  counts: 'sent',
  answer: (visitor, { body }) => withdrawFromOutside(visitor, body),
});
