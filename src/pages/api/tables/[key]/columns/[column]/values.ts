import { endpoint } from '../../../../../../http/endpoint';
import { readColumnValues } from '../../../../../../use-cases/tables/design-table';

export const GET = endpoint({
  answer: (context, { key, params }) => readColumnValues(context, key, params['column'] ?? ''),
});
