import { releaseForm } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { releaseForm as release } from '../../../../use-cases/forms/release-form';

export const POST = endpoint({
  body: releaseForm,
  answer: (context, { id, body }) => release(context, id, body),
});
