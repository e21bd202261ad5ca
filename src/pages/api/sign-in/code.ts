import { code } from '../../../contract/sign-in';
import { cookieEndpoint } from '../../../http/cookie-endpoint';
import { enterWithCode } from '../../../use-cases/people/sign-in';

export const POST = cookieEndpoint({
  body: code,
  open: true,
  answer: (_, input, from) => enterWithCode(input, from),
});
