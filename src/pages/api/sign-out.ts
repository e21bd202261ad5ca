import { nothing } from '../../contract/sign-in';
import { cookieEndpoint } from '../../http/cookie-endpoint';
import { leave } from '../../use-cases/people/sign-in';

export const POST = cookieEndpoint({ body: nothing, open: true, answer: (_, __, from) => leave(from) });
