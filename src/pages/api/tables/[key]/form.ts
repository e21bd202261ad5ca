import type { APIRoute } from 'astro';
import { formOfTable } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { createFormOf } from '../../../../use-cases/create-form';

export const POST: APIRoute = (api) =>
  endpoint({
    body: formOfTable,
    answer: (context, { body }) => createFormOf(context, { id: body.id, table: api.params['key'] ?? '' }),
  })(api);
