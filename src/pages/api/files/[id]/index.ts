import { newFile } from '../../../../contract/files';
import { endpoint } from '../../../../http/endpoint';
import { fileEndpoint } from '../../../../http/file-endpoint';
import { announceFile } from '../../../../use-cases/files/bring-file';
import { openFile } from '../../../../use-cases/files/open-file';

export const GET = fileEndpoint(openFile);
export const PUT = endpoint({
  body: newFile,
  answer: (context, { id, body }) => announceFile(context, id, body),
});
