import { endpoint } from '../../../../../http/endpoint';
import { pastPaths } from '../../../../../use-cases/forms/past-paths';

export const GET = endpoint({ answer: (context, { id }) => pastPaths(context, id) });
