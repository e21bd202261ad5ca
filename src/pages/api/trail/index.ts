import { trailQuery } from '../../../contract/trail';
import { endpoint } from '../../../http/endpoint';
import { trailLines } from '../../../use-cases/trail/read-trail';

export const GET = endpoint({
  query: trailQuery,
  answer: (context, { query }) => trailLines(context, query),
});
