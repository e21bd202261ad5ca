import { steerBulk } from '../../../contract/bulk-changes';
import { endpoint } from '../../../http/endpoint';
import { steerBulkChange } from '../../../use-cases/records/bulk-change';

export const POST = endpoint({
  body: steerBulk,
  answer: (context, { id, body }) => steerBulkChange(context, id, body),
});
