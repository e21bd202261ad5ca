import { linkTables as linked } from '../../../../contract/sources';
import { endpoint } from '../../../../http/endpoint';
import { linkTables } from '../../../../use-cases/links/link-tables';

export const POST = endpoint({
  body: linked,
  answer: (context, { id, body }) => linkTables(context, id, body),
});
