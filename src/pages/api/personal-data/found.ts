import { findPerson } from '../../../contract/one-person';
import { endpoint } from '../../../http/endpoint';
import * as onePerson from '../../../use-cases/people/find-person';

/** What is looked for stands in the body, and so in no log of addresses. */
export const POST = endpoint({
  body: findPerson,
  answer: (context, { body }) => onePerson.findPerson(context, body.words),
});
