import { returnSubmission } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { returnToStep } from '../../../../use-cases/submissions/decide-submission';

export const POST = endpoint({
  body: returnSubmission,
  answer: (context, { id, body }) => returnToStep(context, id, body),
});
