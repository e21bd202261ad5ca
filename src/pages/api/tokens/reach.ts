import { reachAsked } from '../../../contract/tokens';
import { endpoint } from '../../../http/endpoint';
import { reachOf } from '../../../use-cases/tokens/keep-tokens';

export const GET = endpoint({ query: reachAsked, answer: (context, { query }) => reachOf(context, query) });
