import { endpoint } from '../../../../../http/endpoint';
import { viewersOf } from '../../../../../use-cases/records/keep-view';

/** For whom a view of the table can be kept. */
export const GET = endpoint({ answer: (context, { key }) => viewersOf(context, key) });
