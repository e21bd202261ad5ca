import { endpoint } from '../../../../http/endpoint';
import { readTableImpact } from '../../../../use-cases/tables/table-impact';

export const GET = endpoint({ answer: (context, { id }) => readTableImpact(context, id) });
