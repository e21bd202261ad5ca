import { keepSource as kept } from '../../../../contract/sources';
import { endpoint } from '../../../../http/endpoint';
import { keepSource, removeSource } from '../../../../use-cases/links/keep-source';
import { openSource } from '../../../../use-cases/links/look-at-source';

export const GET = endpoint({ answer: (context, { id }) => openSource(context, id) });
export const PUT = endpoint({ body: kept, answer: (context, { id, body }) => keepSource(context, id, body) });
export const DELETE = endpoint({ answer: (context, { id }) => removeSource(context, id) });
