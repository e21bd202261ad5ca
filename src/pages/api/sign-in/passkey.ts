import { nothing, passkeyAnswer } from '../../../contract/sign-in';
import { cookieEndpoint } from '../../../http/cookie-endpoint';
import { askPasskey, enterWithPasskey } from '../../../use-cases/people/passkeys';

export const POST = cookieEndpoint({ body: nothing, open: true, answer: (_, __, from) => askPasskey(from) });
export const PUT = cookieEndpoint({
  body: passkeyAnswer,
  open: true,
  answer: (_, input, from) => enterWithPasskey(input, from),
});
