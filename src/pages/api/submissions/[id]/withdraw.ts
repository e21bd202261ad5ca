import { withdrawSubmission } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { withdrawSubmission as withdraw } from '../../../../use-cases/submissions/decide-submission';

export const POST = endpoint({
  body: withdrawSubmission,
  answer: (context, { id, body }) => withdraw(context, id, body),
});
