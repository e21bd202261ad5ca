import type { APIRoute } from 'astro';
import { pageOfRecords } from '../../../../../contract/requests';
import { endpoint } from '../../../../../http/endpoint';
import { openRecords } from '../../../../../use-cases/read-tables';

export const GET: APIRoute = (api) =>
  endpoint({
    query: pageOfRecords,
    answer: (context, { query }) => openRecords(context, api.params['key'] ?? '', query),
  })(api);
