import { correctSubmission } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { correctAnswers } from '../../../../use-cases/submissions/correct-answers';

export const POST = endpoint({
  body: correctSubmission,
  answer: (context, { id, body }) => correctAnswers(context, id, body),
});
