import { followSource as followed } from '../../../../contract/sources';
import { endpoint } from '../../../../http/endpoint';
import { followSource } from '../../../../use-cases/links/follow-source';

export const POST = endpoint({
  body: followed,
  answer: (context, { id, body }) => followSource(context, id, body),
});
