import { keepView } from '../../../../../contract/views';
import { endpoint } from '../../../../../http/endpoint';
import { keepView as keep, removeView } from '../../../../../use-cases/records/keep-view';

export const PUT = endpoint({
  body: keepView,
  answer: (context, { key, id, body }) => keep(context, key, id, body),
});
export const DELETE = endpoint({ answer: (context, { key, id }) => removeView(context, key, id) });
