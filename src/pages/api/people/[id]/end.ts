import { endAccess } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { endTheirAccess } from '../../../../use-cases/people/keep-person';

export const POST = endpoint({
  body: endAccess,
  answer: (context, { id, body }) => endTheirAccess(context, id, body),
});
