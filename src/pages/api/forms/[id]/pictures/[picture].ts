import { limits } from '../../../../../core/limits';
import { bytesEndpoint } from '../../../../../http/endpoint';
import { addPicture } from '../../../../../use-cases/forms/pictures';

export const PUT = bytesEndpoint({
  most: limits.pictureBytes,
  answer: (context, { id, params, bytes }) => addPicture(context, id, params['picture'] ?? '', bytes),
});
