import { remark as said } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { remark } from '../../../../use-cases/submissions/remark';

export const POST = endpoint({ body: said, answer: (context, { id, body }) => remark(context, id, body) });
