import { beginBulk } from '../../../../contract/bulk-changes';
import { endpoint } from '../../../../http/endpoint';
import { beginBulkChange, lastBulkChange } from '../../../../use-cases/records/bulk-change';

export const GET = endpoint({ answer: (context, { key }) => lastBulkChange(context, key) });
export const POST = endpoint({
  body: beginBulk,
  answer: (context, { key, body }) => beginBulkChange(context, key, body),
});
