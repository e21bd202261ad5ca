import { endpoint } from '../../../../../http/endpoint';
import { viewsOf } from '../../../../../use-cases/records/keep-view';

/** The views of the table, and for whom one can be kept. */
export const GET = endpoint({ answer: (context, { key }) => viewsOf(context, key) });
