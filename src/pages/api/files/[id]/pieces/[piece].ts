import { pieceNumber } from '../../../../../contract/files';
import { limits } from '../../../../../core/limits';
import { bytesEndpoint } from '../../../../../http/endpoint';
import { bringFilePiece } from '../../../../../use-cases/files/bring-file';

export const PUT = bytesEndpoint({
  most: limits.pieceBytes,
  answer: (context, { id, params, bytes }) => bringFilePiece(context, id, pieceNumber(params), bytes),
});
