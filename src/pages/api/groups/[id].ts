import { keepGroup as kept } from '../../../contract/people';
import { endpoint } from '../../../http/endpoint';
import { keepGroup, removeGroup } from '../../../use-cases/people/keep-group';

export const PUT = endpoint({ body: kept, answer: (context, { id, body }) => keepGroup(context, id, body) });
export const DELETE = endpoint({ answer: (context, { id }) => removeGroup(context, id) });
