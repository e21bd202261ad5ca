import { endpoint } from '../../../../http/endpoint';
import { readTableImpact } from '../../../../use-cases/table-impact';

export const GET = endpoint({ answer: (context, { id }) => readTableImpact(context, id) });
