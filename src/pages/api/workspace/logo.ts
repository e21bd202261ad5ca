import { noBody } from '../../../contract/people';
import { limits } from '../../../core/limits';
import { bytesEndpoint, endpoint } from '../../../http/endpoint';
import { dropLogo, keepLogo } from '../../../use-cases/workspace/logo';

export const PUT = bytesEndpoint({
  most: limits.pictureBytes,
  answer: (context, { bytes }) => keepLogo(context, bytes),
});
export const DELETE = endpoint({ body: noBody, answer: dropLogo });
