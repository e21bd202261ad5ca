import { endpoint } from '../../../http/endpoint';
import { readTablePicture } from '../../../use-cases/read-tables';

export const GET = endpoint({ answer: readTablePicture });
