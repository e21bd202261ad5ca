import { noBody } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { takeOffTheirCodes } from '../../../../use-cases/people/keep-person';

export const DELETE = endpoint({
  body: noBody,
  answer: (context, { id }) => takeOffTheirCodes(context, id),
});
