import { endProvider, keepProvider } from '../../../contract/sign-in';
import { endpoint } from '../../../http/endpoint';
import * as provider from '../../../use-cases/people/through-provider';

export const GET = endpoint({ answer: provider.openProvider });
export const PUT = endpoint({
  body: keepProvider,
  answer: (context, { body }) => provider.keepProvider(context, body),
});
export const DELETE = endpoint({
  body: endProvider,
  answer: (context, { body }) => provider.endProvider(context, body),
});
