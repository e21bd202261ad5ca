import { nothing } from '../../../contract/sign-in';
import { cookieEndpoint } from '../../../http/cookie-endpoint';
import { endPasskey } from '../../../use-cases/people/passkeys';

export const DELETE = cookieEndpoint({
  body: nothing,
  open: false,
  answer: (context, _, { params }) => endPasskey(context, params?.['id'] ?? ''),
});
