import type { APIRoute } from 'astro';
import { nothing } from '../../../../../contract/imports';
import { endpoint } from '../../../../../http/endpoint';
import { askRefresh } from '../../../../../use-cases/link-tables';

export const POST: APIRoute = (api) =>
  endpoint({ body: nothing, answer: (context) => askRefresh(context, api.params['key'] ?? '') })(api);
