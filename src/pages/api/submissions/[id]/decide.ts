import { decideSubmission } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { decideSubmission as decide } from '../../../../use-cases/submissions/decide-submission';

export const POST = endpoint({
  body: decideSubmission,
  answer: (context, { id, body }) => decide(context, id, body),
});
