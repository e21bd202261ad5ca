import { saveEdits } from '../../contract/record-edits';
import { endpoint } from '../../http/endpoint';
import { saveEdits as save } from '../../use-cases/records/save-edits';

export const POST = endpoint({
  body: saveEdits,
  answer: (context, { body }) => save(context, body),
});
