import type { APIRoute } from 'astro';
import { nameLookup, searchLookup } from '../../../../../contract/requests';
import { endpoint } from '../../../../../http/endpoint';
import { nameLookup as name, searchLookup as search } from '../../../../../use-cases/search-lookup';

export const GET: APIRoute = (api) =>
  endpoint({
    query: searchLookup,
    answer: (context, { id, query }) =>
      search(context, {
        form: id,
        question: api.params['question'] ?? '',
        submission: query.submission ?? null,
        search: query.q,
      }),
  })(api);

export const POST: APIRoute = (api) =>
  endpoint({
    body: nameLookup,
    answer: (context, { id, body }) =>
      name(context, { form: id, question: api.params['question'] ?? '', ...body }),
  })(api);
