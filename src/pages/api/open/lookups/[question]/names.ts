import { nameLookup } from '../../../../../contract/requests';
import { outsideEndpoint } from '../../../../../http/outside-endpoint';
import { nameFromOutside } from '../../../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: nameLookup,
  by: 'either',
  counts: 'looked',
  answer: (visitor, { body: { texts, given }, params }) =>
    nameFromOutside(visitor, { question: params['question'] ?? '', asks: { texts, given } }),
});
