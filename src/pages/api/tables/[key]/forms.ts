import type { APIRoute } from 'astro';
import { allowForm } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { allowForm as allow } from '../../../../use-cases/allow-form';

export const POST: APIRoute = (api) =>
  endpoint({ body: allowForm, answer: (context, { body }) => allow(context, api.params['key'] ?? '', body) })(
    api,
  );
