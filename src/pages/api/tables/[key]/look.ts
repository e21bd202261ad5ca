import { look } from '../../../../contract/views';
import { endpoint } from '../../../../http/endpoint';
import { keepLook } from '../../../../use-cases/records/keep-view';

export const PUT = endpoint({
  body: look,
  answer: (context, { key, body }) => keepLook(context, key, body),
});
