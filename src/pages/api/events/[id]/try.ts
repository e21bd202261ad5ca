import { nothingSaid } from '../../../../contract/events';
import { endpoint } from '../../../../http/endpoint';
import { tryAddress } from '../../../../use-cases/events/tell-by-hand';

export const POST = endpoint({ body: nothingSaid, answer: (context, { id }) => tryAddress(context, id) });
