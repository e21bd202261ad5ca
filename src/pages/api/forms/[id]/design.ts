import { editForm } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { editForm as edit } from '../../../../use-cases/forms/edit-form';
import { openWorkbench } from '../../../../use-cases/forms/open-workbench';

export const GET = endpoint({ answer: (context, { id }) => openWorkbench(context, id) });
export const PUT = endpoint({ body: editForm, answer: (context, { id, body }) => edit(context, id, body) });
