import { facetsOfRecords } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { readFacets } from '../../../../use-cases/records/read-facets';

export const GET = endpoint({
  query: facetsOfRecords,
  answer: (context, { key, query }) => readFacets(context, key, query),
});
