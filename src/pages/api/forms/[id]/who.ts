import { formGrants } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { sayWhoOfForm, whoOfForm } from '../../../../use-cases/people/say-who';

export const GET = endpoint({ answer: (context, { id }) => whoOfForm(context, id) });
export const PUT = endpoint({
  body: formGrants,
  answer: (context, { id, body }) => sayWhoOfForm(context, id, body),
});
