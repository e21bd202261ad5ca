import { nothing } from '../../../contract/outside';
import { outsideEndpoint } from '../../../http/outside-endpoint';
import { openFollowed } from '../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: nothing,
  by: 'visit',
  counts: 'looked',
  answer: (visitor) => openFollowed(visitor),
});
