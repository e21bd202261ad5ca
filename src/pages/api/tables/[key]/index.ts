import { endpoint } from '../../../../http/endpoint';
import { openTableAtWork } from '../../../../use-cases/records/table-at-work';

export const GET = endpoint({ answer: (context, { key }) => openTableAtWork(context, key) });
