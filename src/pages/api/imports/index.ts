import { newImport } from '../../../contract/imports';
import { endpoint } from '../../../http/endpoint';
import { beginImport } from '../../../use-cases/imports/begin-import';
import { listOwnImports } from '../../../use-cases/imports/decide-import';

export const GET = endpoint({ answer: listOwnImports });
export const POST = endpoint({ body: newImport, answer: (context, { body }) => beginImport(context, body) });
