import { seenAsked } from '../../../contract/events';
import { endpoint } from '../../../http/endpoint';
import { seenBy } from '../../../use-cases/events/keep-addresses';

export const GET = endpoint({ query: seenAsked, answer: (context, { query }) => seenBy(context, query) });
