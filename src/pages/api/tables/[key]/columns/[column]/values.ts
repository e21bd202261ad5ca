import type { APIRoute } from 'astro';
import { endpoint } from '../../../../../../http/endpoint';
import { readColumnValues } from '../../../../../../use-cases/design-table';

export const GET: APIRoute = (api) =>
  endpoint({
    answer: (context) => readColumnValues(context, api.params['key'] ?? '', api.params['column'] ?? ''),
  })(api);
