import { noQuery } from '../../../contract/requests';
import { downloadEndpoint } from '../../../http/endpoint';
import { takeOutWorkspace } from '../../../use-cases/records/export-table';

export const GET = downloadEndpoint({ query: noQuery, answer: takeOutWorkspace });
