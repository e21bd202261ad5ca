import { takeOutPerson } from '../../../contract/one-person';
import { endpoint } from '../../../http/endpoint';
import * as onePerson from '../../../use-cases/people/take-out-person';

export const POST = endpoint({
  body: takeOutPerson,
  answer: (context, { body }) => onePerson.takeOutPerson(context, body),
});
