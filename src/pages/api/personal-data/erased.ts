import { erasePerson } from '../../../contract/one-person';
import { endpoint } from '../../../http/endpoint';
import * as onePerson from '../../../use-cases/people/erase-person';

export const POST = endpoint({
  body: erasePerson,
  answer: (context, { body }) => onePerson.erasePerson(context, body),
});
