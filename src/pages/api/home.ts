import { endpoint } from '../../http/endpoint';
import { openHome } from '../../use-cases/submissions/open-home';

export const GET = endpoint({ answer: openHome });
