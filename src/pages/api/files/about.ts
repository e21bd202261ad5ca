import { someFiles } from '../../../contract/files';
import { endpoint } from '../../../http/endpoint';
import { describeFiles } from '../../../use-cases/files/open-file';

export const POST = endpoint({
  body: someFiles,
  answer: (context, { body }) => describeFiles(context, body.ids),
});
