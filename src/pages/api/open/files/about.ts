import { someFiles } from '../../../../contract/files';
import { outsideEndpoint } from '../../../../http/outside-endpoint';
import { describeFromOutside } from '../../../../use-cases/outside/files-from-outside';

export const POST = outsideEndpoint({
  body: someFiles,
  by: 'either',
  counts: 'looked',
  answer: (visitor, { body }) => describeFromOutside(visitor, body.ids),
});
