import { endpoint } from '../../../http/endpoint';
import { listSources } from '../../../use-cases/look-at-source';

export const GET = endpoint({ answer: listSources });
