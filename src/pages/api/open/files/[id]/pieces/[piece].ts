import { pieceNumber } from '../../../../../../contract/files';
import { limits } from '../../../../../../core/limits';
import { outsideBytesEndpoint } from '../../../../../../http/outside-endpoint';
import { bringFromOutside } from '../../../../../../use-cases/outside/files-from-outside';

export const PUT = outsideBytesEndpoint({
  most: limits.pieceBytes,
  by: 'either',
  counts: 'looked',
  answer: (visitor, { body, params, id }) => bringFromOutside(visitor, id, pieceNumber(params), body),
});
