import { keepOwnFormats } from '../../contract/workspace';
import { endpoint } from '../../http/endpoint';
import { keepOwnFormats as keep } from '../../use-cases/workspace/keep-settings';

export const PUT = endpoint({ body: keepOwnFormats, answer: (context, { body }) => keep(context, body) });
