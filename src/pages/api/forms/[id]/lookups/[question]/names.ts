import { nameLookup } from '../../../../../../contract/requests';
import { endpoint } from '../../../../../../http/endpoint';
import { nameLookup as name } from '../../../../../../use-cases/submissions/search-lookup';

export const POST = endpoint({
  body: nameLookup,
  answer: (context, { id, body, params }) =>
    name(context, { form: id, question: params['question'] ?? '', ...body }),
});
