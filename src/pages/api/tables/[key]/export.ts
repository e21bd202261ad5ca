import { exportAs } from '../../../../contract/requests';
import { downloadEndpoint } from '../../../../http/endpoint';
import { exportShown } from '../../../../use-cases/records/export-shown';
import { takeOutTable } from '../../../../use-cases/records/export-table';

export const GET = downloadEndpoint({
  query: exportAs,
  answer: (context, { query: { as, shown, ...query }, params }) => {
    const key = params['key'] ?? '';
    return shown === undefined || as === 'package' || as === 'sql'
      ? takeOutTable(context, key, as)
      : exportShown(context, key, as, query);
  },
});
