import { resumeAddress } from '../../../../contract/events';
import { endpoint } from '../../../../http/endpoint';
import { letGoOn } from '../../../../use-cases/events/keep-addresses';

export const POST = endpoint({
  body: resumeAddress,
  answer: (context, { id, body }) => letGoOn(context, id, body),
});
