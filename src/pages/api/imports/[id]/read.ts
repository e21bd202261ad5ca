import { nothing } from '../../../../contract/imports';
import { endpoint } from '../../../../http/endpoint';
import { readBrought } from '../../../../use-cases/imports/begin-import';

export const POST = endpoint({ body: nothing, answer: (context, { id }) => readBrought(context, id) });
