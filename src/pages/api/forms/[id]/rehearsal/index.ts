import { beginRehearsal, rehearse } from '../../../../../contract/rehearsals';
import { endpoint } from '../../../../../http/endpoint';
import { openRehearsal } from '../../../../../use-cases/forms/open-rehearsal';
import { rehearseForm } from '../../../../../use-cases/forms/rehearse-form';

/** The sheet to be rehearsed. */
export const PUT = endpoint({
  body: beginRehearsal,
  answer: (context, { id, body }) => openRehearsal(context, id, body),
});
/** What sending it would come to. */
export const POST = endpoint({
  body: rehearse,
  answer: (context, { id, body }) => rehearseForm(context, id, body),
});
