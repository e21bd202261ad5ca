import { opening } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { keepOpening } from '../../../../use-cases/forms/opening';

export const PUT = endpoint({
  body: opening,
  answer: (context, { id, body }) => keepOpening(context, id, body),
});
