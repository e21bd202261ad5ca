import { pieceOf } from '../../../../../../contract/imports';
import { limits } from '../../../../../../core/limits';
import { bytesEndpoint } from '../../../../../../http/endpoint';
import { bringPiece } from '../../../../../../use-cases/imports/begin-import';

export const PUT = bytesEndpoint({
  most: limits.pieceBytes,
  answer: (context, { id, params, bytes }) => bringPiece(context, id, { ...pieceOf(params), bytes }),
});
