import { listToFollow, lookAtList, stopList } from '../../../contract/people-list';
import { endpoint } from '../../../http/endpoint';
import * as list from '../../../use-cases/people/follow-list';

export const GET = endpoint({ answer: (context) => list.openList(context) });
export const POST = endpoint({
  body: lookAtList,
  answer: (context, { body }) => list.lookAtList(context, body.source),
});
export const PUT = endpoint({
  body: listToFollow,
  answer: (context, { body }) => list.keepList(context, body),
});
export const DELETE = endpoint({
  body: stopList,
  answer: (context, { body }) => list.stopList(context, body.version),
});
