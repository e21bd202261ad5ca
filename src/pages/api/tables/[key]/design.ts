import type { APIRoute } from 'astro';
import { endpoint } from '../../../../http/endpoint';
import { openTableDesign } from '../../../../use-cases/design-table';

export const GET: APIRoute = (api) =>
  endpoint({ answer: (context) => openTableDesign(context, api.params['key'] ?? '') })(api);
