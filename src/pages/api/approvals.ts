import { endpoint } from '../../http/endpoint';
import { openApprovals } from '../../use-cases/open-home';

export const GET = endpoint({ answer: openApprovals });
