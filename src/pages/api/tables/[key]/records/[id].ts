import { endpoint } from '../../../../../http/endpoint';
import { openRecord } from '../../../../../use-cases/records/open-records';

export const GET = endpoint({ answer: (context, { id, key }) => openRecord(context, key, id) });
