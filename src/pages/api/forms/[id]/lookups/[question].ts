import { nameLookup, searchLookup } from '../../../../../contract/requests';
import { endpoint } from '../../../../../http/endpoint';
import {
  nameLookup as name,
  searchLookup as search,
} from '../../../../../use-cases/submissions/search-lookup';

export const GET = endpoint({
  query: searchLookup,
  answer: (context, { id, query, params }) =>
    search(context, {
      form: id,
      question: params['question'] ?? '',
      submission: query.submission ?? null,
      search: query.q,
    }),
});

export const POST = endpoint({
  body: nameLookup,
  answer: (context, { id, body, params }) =>
    name(context, { form: id, question: params['question'] ?? '', ...body }),
});
