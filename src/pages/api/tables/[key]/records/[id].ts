import { endpoint } from '../../../../../http/endpoint';
import { openRecord } from '../../../../../use-cases/read-tables';

export const GET = endpoint({ answer: (context, { id, key }) => openRecord(context, key, id) });
