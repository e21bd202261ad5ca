import { tableGrants } from '../../../../contract/people';
import { endpoint } from '../../../../http/endpoint';
import { sayWhoOfTable, whoOfTable } from '../../../../use-cases/people/say-who';

export const GET = endpoint({ answer: (context, { key }) => whoOfTable(context, key) });
export const PUT = endpoint({
  body: tableGrants,
  answer: (context, { key, body }) => sayWhoOfTable(context, key, body),
});
