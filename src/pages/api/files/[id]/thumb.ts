import { fileEndpoint } from '../../../../http/file-endpoint';
import { openThumb } from '../../../../use-cases/files/open-file';

export const GET = fileEndpoint(openThumb);
