import { allowForm } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { allowForm as allow } from '../../../../use-cases/forms/allow-form';

export const POST = endpoint({
  body: allowForm,
  answer: (context, { key, body }) => allow(context, key, body),
});
