import { keepWorkspace } from '../../../contract/workspace';
import { endpoint } from '../../../http/endpoint';
import { keepSettings, openSettings } from '../../../use-cases/workspace/keep-settings';

export const GET = endpoint({ answer: openSettings });
export const PUT = endpoint({
  body: keepWorkspace,
  answer: (context, { body }) => keepSettings(context, body),
});
