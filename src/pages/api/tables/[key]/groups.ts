import { groupsOfRecords } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { readGroups } from '../../../../use-cases/records/read-groups';

export const GET = endpoint({
  query: groupsOfRecords,
  answer: (context, { query, key }) => readGroups(context, key, query),
});
