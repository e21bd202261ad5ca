import { exportAs } from '../../../../contract/requests';
import { downloadEndpoint } from '../../../../http/endpoint';
import { exportTable } from '../../../../use-cases/export-table';

export const GET = downloadEndpoint({ query: exportAs, answer: (context, { query, params }) => exportTable(context, params['key'] ?? '', query.as) });
