import { endpoint } from '../../../http/endpoint';
import { listLists } from '../../../use-cases/read-lists';

export const GET = endpoint({ answer: listLists });
