import { searchLookup } from '../../../../../../contract/requests';
import { endpoint } from '../../../../../../http/endpoint';
import { searchLookup as search } from '../../../../../../use-cases/submissions/search-lookup';

export const POST = endpoint({
  body: searchLookup,
  answer: (context, { id, body: { q, id: record, ...body }, params }) =>
    search(context, { form: id, question: params['question'] ?? '', search: q, record, ...body }),
});
