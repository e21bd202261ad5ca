import { refusedRowsOf } from '../../../../contract/imports';
import { downloadEndpoint } from '../../../../http/endpoint';
import { readRefusedRows } from '../../../../use-cases/imports/decide-import';

export const GET = downloadEndpoint({
  query: refusedRowsOf,
  answer: (context, { query, params }) => readRefusedRows(context, params['id'] ?? '', query),
});
