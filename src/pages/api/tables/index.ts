import { endpoint } from '../../../http/endpoint';
import { listTables } from '../../../use-cases/tables/read-tables';

export const GET = endpoint({ answer: listTables });
