import { newFile } from '../../../../../contract/files';
import { outsideEndpoint } from '../../../../../http/outside-endpoint';
import { announceFromOutside } from '../../../../../use-cases/outside/files-from-outside';

export const PUT = outsideEndpoint({
  body: newFile,
  by: 'either',
  counts: 'sent',
  answer: (visitor, { body, id }) => announceFromOutside(visitor, id, body),
});
