import { fileEndpoint } from '../../../http/file-endpoint';
import { openPicture } from '../../../use-cases/forms/pictures';

export const GET = fileEndpoint(openPicture);
