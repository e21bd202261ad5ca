import { endpoint } from '../../../../http/endpoint';
import { takeFormOut } from '../../../../use-cases/forms/take-form';

export const GET = endpoint({ answer: (context, { id }) => takeFormOut(context, id) });
