import { endpoint } from '../../../../http/endpoint';
import { readAnswersSchema } from '../../../../use-cases/forms/take-form';

export const GET = endpoint({ answer: (context, { id }) => readAnswersSchema(context, id) });
