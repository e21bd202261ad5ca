import { keepList as kept } from '../../../contract/choice-lists';
import { endpoint } from '../../../http/endpoint';
import { keepList, removeList } from '../../../use-cases/lists/keep-list';
import { openList } from '../../../use-cases/lists/read-lists';

export const GET = endpoint({ answer: (context, { id }) => openList(context, id) });
export const PUT = endpoint({ body: kept, answer: (context, { id, body }) => keepList(context, id, body) });
export const DELETE = endpoint({ answer: (context, { id }) => removeList(context, id) });
