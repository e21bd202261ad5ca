import { signIn } from '../../../contract/sign-in';
import { cookieEndpoint } from '../../../http/cookie-endpoint';
import { enter } from '../../../use-cases/people/sign-in';

export const POST = cookieEndpoint({
  body: signIn,
  open: true,
  answer: (_, input, from) => enter(input, from),
});
