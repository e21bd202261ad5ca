import { endpoint } from '../../../http/endpoint';
import { openPeople } from '../../../use-cases/people/read-people';

export const GET = endpoint({ answer: openPeople });
