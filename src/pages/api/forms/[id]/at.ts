import { lineInHand } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { tellLine } from '../../../../use-cases/forms/tell-line';

export const POST = endpoint({
  body: lineInHand,
  answer: (context, { id, body }) => tellLine(context, id, body),
});
