import { endpoint } from '../../http/endpoint';
import { howManyWait } from '../../use-cases/open-home';

export const GET = endpoint({ answer: howManyWait });
