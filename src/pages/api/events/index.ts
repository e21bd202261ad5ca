import { endpoint } from '../../../http/endpoint';
import { openEvents } from '../../../use-cases/events/keep-addresses';

export const GET = endpoint({ answer: openEvents });
