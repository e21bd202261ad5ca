import { keepPerson as kept } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { keepPerson } from '../../../../use-cases/people/keep-person';

export const PUT = endpoint({ body: kept, answer: (context, { id, body }) => keepPerson(context, id, body) });
