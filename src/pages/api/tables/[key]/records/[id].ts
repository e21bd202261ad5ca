import type { APIRoute } from 'astro';
import { endpoint } from '../../../../../http/endpoint';
import { openRecord } from '../../../../../use-cases/read-tables';

export const GET: APIRoute = (api) =>
  endpoint({ answer: (context, { id }) => openRecord(context, api.params['key'] ?? '', id) })(api);
