import { sayOutside } from '../../../../contract/outside';
import { endpoint } from '../../../../http/endpoint';
import { outsideOf, sayOutside as say } from '../../../../use-cases/outside/keep-outside';

export const GET = endpoint({ answer: (context, { id }) => outsideOf(context, id) });
export const PUT = endpoint({ body: sayOutside, answer: (context, { id, body }) => say(context, id, body) });
