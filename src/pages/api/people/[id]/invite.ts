import { noBody } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { invitePerson } from '../../../../use-cases/people/keep-person';

export const POST = endpoint({ body: noBody, answer: (context, { id }) => invitePerson(context, id) });
