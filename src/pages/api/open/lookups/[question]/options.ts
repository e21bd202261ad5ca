import { searchLookup } from '../../../../../contract/requests';
import { outsideEndpoint } from '../../../../../http/outside-endpoint';
import { searchFromOutside } from '../../../../../use-cases/outside/fill-from-outside';

export const POST = outsideEndpoint({
  body: searchLookup,
  by: 'either',
  counts: 'looked',
  answer: (visitor, { body: { q, id: record, given }, params }) =>
    searchFromOutside(visitor, { question: params['question'] ?? '', asks: { search: q, record, given } }),
});
