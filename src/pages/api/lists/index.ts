import { endpoint } from '../../../http/endpoint';
import { listLists } from '../../../use-cases/lists/read-lists';

export const GET = endpoint({ answer: listLists });
