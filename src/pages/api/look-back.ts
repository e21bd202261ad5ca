import { nothing } from '../../contract/sign-in';
import { cookieEndpoint } from '../../http/cookie-endpoint';
import { lookBack } from '../../use-cases/people/look-as';

export const POST = cookieEndpoint({
  body: nothing,
  open: false,
  answer: (context, _, from) => lookBack(context, from),
});
