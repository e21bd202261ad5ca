import { formOfTable } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { createFormOf } from '../../../../use-cases/forms/create-form';

export const POST = endpoint({
  body: formOfTable,
  answer: (context, { body, key }) => createFormOf(context, { id: body.id, table: key }),
});
