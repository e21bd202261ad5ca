import { trailFile } from '../../../contract/trail';
import { downloadEndpoint } from '../../../http/endpoint';
import { exportTrail } from '../../../use-cases/trail/read-trail';

export const GET = downloadEndpoint({
  query: trailFile,
  answer: (context, { query }) => exportTrail(context, query),
});
