import { newForm } from '../../../contract/requests';
import { endpoint } from '../../../http/endpoint';
import { createForm } from '../../../use-cases/forms/create-form';
import { openForms } from '../../../use-cases/forms/open-workbench';

export const GET = endpoint({ answer: openForms });
export const POST = endpoint({ body: newForm, answer: (context, { body }) => createForm(context, body) });
