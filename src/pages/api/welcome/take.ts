import { takeInvitation } from '../../../contract/people';
import { cookieEndpoint } from '../../../http/cookie-endpoint';
import { takeUp } from '../../../use-cases/people/take-invitation';

export const POST = cookieEndpoint({
  body: takeInvitation,
  open: true,
  answer: (_, input, from) => takeUp(input, from),
});
