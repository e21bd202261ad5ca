import { endpoint } from '../../http/endpoint';
import { openApprovals } from '../../use-cases/submissions/open-home';

export const GET = endpoint({ answer: openApprovals });
