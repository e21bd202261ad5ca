import { newPassword } from '../../contract/sign-in';
import { cookieEndpoint } from '../../http/cookie-endpoint';
import { renewPassword } from '../../use-cases/people/sign-in';

export const POST = cookieEndpoint({ body: newPassword, open: false, answer: renewPassword });
