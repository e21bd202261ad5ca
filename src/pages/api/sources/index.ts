import { endpoint } from '../../../http/endpoint';
import { listSources } from '../../../use-cases/links/look-at-source';

export const GET = endpoint({ answer: listSources });
