import { answering } from '../../../../../contract/files';
import { outsideEndpoint } from '../../../../../http/outside-endpoint';
import { finishFromOutside } from '../../../../../use-cases/outside/files-from-outside';

export const POST = outsideEndpoint({
  body: answering,
  by: 'either',
  counts: 'looked',
  answer: (visitor, { body, id }) => finishFromOutside(visitor, id, body),
});
