import { fileEndpoint } from '../../../http/file-endpoint';
import { openPicture, openPictureToAll } from '../../../use-cases/forms/pictures';

export const GET = fileEndpoint(openPicture, openPictureToAll);
