import type { APIRoute } from 'astro';
import { changeLink as changed } from '../../../../../contract/sources';
import { endpoint } from '../../../../../http/endpoint';
import { changeLink, unlinkTable } from '../../../../../use-cases/link-tables';

export const PUT: APIRoute = (api) =>
  endpoint({
    body: changed,
    answer: (context, { body }) => changeLink(context, api.params['key'] ?? '', body),
  })(api);
export const DELETE: APIRoute = (api) =>
  endpoint({ answer: (context) => unlinkTable(context, api.params['key'] ?? '') })(api);
