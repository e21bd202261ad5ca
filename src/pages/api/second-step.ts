import { code, ownPassword } from '../../contract/sign-in';
import { cookieEndpoint } from '../../http/cookie-endpoint';
import { beginOwnCodes, confirmOwnCodes, endOwnCodes } from '../../use-cases/people/second-step';

export const POST = cookieEndpoint({ body: ownPassword, open: false, answer: beginOwnCodes });
export const PUT = cookieEndpoint({ body: code, open: false, answer: confirmOwnCodes });
export const DELETE = cookieEndpoint({ body: ownPassword, open: false, answer: endOwnCodes });
