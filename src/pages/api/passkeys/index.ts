import { ownPassword, passkeyAnswer } from '../../../contract/sign-in';
import { cookieEndpoint } from '../../../http/cookie-endpoint';
import { endpoint } from '../../../http/endpoint';
import { beginPasskey, howSigningIn, keepPasskey } from '../../../use-cases/people/passkeys';

export const GET = endpoint({ answer: (context) => howSigningIn(context) });
export const POST = cookieEndpoint({ body: ownPassword, open: false, answer: beginPasskey });
export const PUT = cookieEndpoint({ body: passkeyAnswer, open: false, answer: keepPasskey });
