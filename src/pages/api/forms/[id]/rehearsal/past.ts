import { endpoint } from '../../../../../http/endpoint';
import { pastSubmissions } from '../../../../../use-cases/forms/open-rehearsal';

export const GET = endpoint({ answer: (context, { id }) => pastSubmissions(context, id) });
