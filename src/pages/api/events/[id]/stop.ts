import { nothingSaid } from '../../../../contract/events';
import { endpoint } from '../../../../http/endpoint';
import { haltAddress } from '../../../../use-cases/events/keep-addresses';

export const POST = endpoint({ body: nothingSaid, answer: (context, { id }) => haltAddress(context, id) });
