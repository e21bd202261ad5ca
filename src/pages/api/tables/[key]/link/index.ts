import { changeLink as changed } from '../../../../../contract/sources';
import { endpoint } from '../../../../../http/endpoint';
import { changeLink, unlinkTable } from '../../../../../use-cases/links/link-tables';

export const PUT = endpoint({
  body: changed,
  answer: (context, { body, key }) => changeLink(context, key, body),
});
export const DELETE = endpoint({ answer: (context, { key }) => unlinkTable(context, key) });
