import { answering } from '../../../../contract/files';
import { endpoint } from '../../../../http/endpoint';
import { finishFile } from '../../../../use-cases/files/bring-file';

export const POST = endpoint({
  body: answering,
  answer: (context, { id, body }) => finishFile(context, id, body),
});
