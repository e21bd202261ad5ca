import { readImpact } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { readImpact as impact } from '../../../../use-cases/forms/read-impact';

export const POST = endpoint({
  body: readImpact,
  answer: (context, { id, body }) => impact(context, id, body),
});
