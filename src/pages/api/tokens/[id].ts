import { makeToken } from '../../../contract/tokens';
import { endpoint } from '../../../http/endpoint';
import { addToken, stopToken } from '../../../use-cases/tokens/keep-tokens';

export const PUT = endpoint({
  body: makeToken,
  answer: (context, { id, body }) => addToken(context, id, body),
});
export const DELETE = endpoint({ answer: (context, { id }) => stopToken(context, id) });
