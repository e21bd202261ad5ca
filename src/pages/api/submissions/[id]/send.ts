import { sendSubmission } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { sendSubmission as send } from '../../../../use-cases/submissions/send-submission';

export const POST = endpoint({
  body: sendSubmission,
  answer: (context, { id, body }) => send(context, id, body),
});
