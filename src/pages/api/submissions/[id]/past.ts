import { endpoint } from '../../../../http/endpoint';
import { pastCases } from '../../../../use-cases/submissions/past-cases';

export const GET = endpoint({ answer: (context, { id }) => pastCases(context, id) });
