import { followDirectory, planDirectory } from '../../../contract/people';
import { endpoint } from '../../../http/endpoint';
import * as directory from '../../../use-cases/people/directory';

/** Five thousand people with their groups. */
const most = 4 * 1024 * 1024;

export const POST = endpoint({
  body: planDirectory,
  most,
  answer: (context, { body }) => directory.planDirectory(context, body),
});
export const PUT = endpoint({
  body: followDirectory,
  most,
  answer: (context, { body }) => directory.followDirectory(context, body),
});
