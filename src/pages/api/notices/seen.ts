import { lookedAt as looked } from '../../../contract/notices';
import { endpoint } from '../../../http/endpoint';
import { lookedAt } from '../../../use-cases/notices/own-notices';

export const POST = endpoint({ body: looked, answer: (context, { body }) => lookedAt(context, body) });
