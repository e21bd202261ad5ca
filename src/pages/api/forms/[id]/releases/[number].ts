import { releaseNumber } from '../../../../../contract/requests';
import { endpoint } from '../../../../../http/endpoint';
import { readFormRelease } from '../../../../../use-cases/forms/take-form';

export const GET = endpoint({
  answer: (context, { id, params }) => readFormRelease(context, id, releaseNumber(params['number'])),
});
