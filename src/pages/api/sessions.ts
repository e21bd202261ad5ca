import { endSessions } from '../../contract/sign-in';
import { cookieEndpoint } from '../../http/cookie-endpoint';
import { endOwnSessions } from '../../use-cases/people/own-sessions';

export const DELETE = cookieEndpoint({
  body: endSessions,
  open: false,
  answer: (context, { id }, from) => endOwnSessions(context, id, from),
});
