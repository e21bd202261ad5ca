import { endpoint } from '../../../http/endpoint';
import { readNotices } from '../../../use-cases/notices/own-notices';

export const GET = endpoint({ answer: readNotices });
