import { keepAddress as said } from '../../../../contract/events';
import { endpoint } from '../../../../http/endpoint';
import { keepAddress, readDeliveries, removeAddress } from '../../../../use-cases/events/keep-addresses';

export const GET = endpoint({ answer: (context, { id }) => readDeliveries(context, id) });
export const PUT = endpoint({
  body: said,
  answer: (context, { id, body }) => keepAddress(context, id, body),
});
export const DELETE = endpoint({ answer: (context, { id }) => removeAddress(context, id) });
