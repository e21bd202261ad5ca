import { sayAway as away } from '../../../contract/absences';
import { endpoint } from '../../../http/endpoint';
import { sayAway, sayBack } from '../../../use-cases/people/absences';

export const PUT = endpoint({ body: away, answer: (context, { id, body }) => sayAway(context, id, body) });
export const DELETE = endpoint({ answer: (context, { id }) => sayBack(context, id) });
