import { endpoint } from '../../../../http/endpoint';
import { lookAtSource } from '../../../../use-cases/links/look-at-source';

export const GET = endpoint({ answer: (context, { id }) => lookAtSource(context, id) });
