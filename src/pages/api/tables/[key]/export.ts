import { exportAs } from '../../../../contract/requests';
import { downloadEndpoint } from '../../../../http/endpoint';
import { takeOutTable } from '../../../../use-cases/records/export-table';

export const GET = downloadEndpoint({
  query: exportAs,
  answer: (context, { query, params }) => takeOutTable(context, params['key'] ?? '', query.as),
});
