import { carryDraft } from '../../../../contract/requests';
import { endpoint } from '../../../../http/endpoint';
import { carryDraft as carry } from '../../../../use-cases/submissions/carry-draft';

export const POST = endpoint({
  body: carryDraft,
  answer: (context, { id, body }) => carry(context, id, body),
});
