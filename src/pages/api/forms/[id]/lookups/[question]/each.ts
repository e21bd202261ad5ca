import { eachOfLookup } from '../../../../../../contract/requests';
import { endpoint } from '../../../../../../http/endpoint';
import { eachOfLookup as each } from '../../../../../../use-cases/submissions/search-lookup';

export const POST = endpoint({
  body: eachOfLookup,
  answer: (context, { id, body, params }) =>
    each(context, { form: id, question: params['question'] ?? '', ...body }),
});
