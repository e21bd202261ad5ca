import { eachOfLookup } from '../../../../../contract/requests';
import { outsideEndpoint } from '../../../../../http/outside-endpoint';
import { eachFromOutside } from '../../../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: eachOfLookup,
  by: 'either',
  counts: 'looked',
  answer: (visitor, { body: { given }, params }) =>
    eachFromOutside(visitor, { question: params['question'] ?? '', asks: { given } }),
});
