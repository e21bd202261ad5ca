import { tellAgain as said } from '../../../../contract/events';
import { endpoint } from '../../../../http/endpoint';
import { tellAgain } from '../../../../use-cases/events/tell-by-hand';

export const POST = endpoint({ body: said, answer: (context, { id, body }) => tellAgain(context, id, body) });
