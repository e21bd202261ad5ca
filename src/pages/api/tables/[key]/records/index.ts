import { pageOfRecords } from '../../../../../contract/requests';
import { endpoint } from '../../../../../http/endpoint';
import { openRecords } from '../../../../../use-cases/records/open-records';

export const GET = endpoint({
  query: pageOfRecords,
  answer: (context, { query, key }) => openRecords(context, key, query),
});
