import { nothing } from '../../../../contract/imports';
import { endpoint } from '../../../../http/endpoint';
import { cancelImport } from '../../../../use-cases/imports/begin-import';

export const POST = endpoint({ body: nothing, answer: (context, { id }) => cancelImport(context, id) });
