import { endpoint } from '../../../http/endpoint';
import { readTablePicture } from '../../../use-cases/tables/read-tables';

export const GET = endpoint({ answer: readTablePicture });
