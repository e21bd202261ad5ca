import { nameRecords, pickRecords } from '../../../../contract/record-edits';
import { endpoint } from '../../../../http/endpoint';
import { nameRecords as name, pickRecords as pick } from '../../../../use-cases/records/pick-records';

export const GET = endpoint({
  query: pickRecords,
  answer: (context, { key, query }) => pick(context, key, query.q),
});
export const POST = endpoint({
  body: nameRecords,
  answer: (context, { key, body }) => name(context, key, body.texts),
});
