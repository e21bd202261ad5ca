import { endpoint } from '../../../../http/endpoint';
import { findMatches } from '../../../../use-cases/tables/find-matches';

export const GET = endpoint({ answer: (context, { key }) => findMatches(context, key) });
