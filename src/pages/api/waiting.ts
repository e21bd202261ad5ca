import { endpoint } from '../../http/endpoint';
import { howManyWait } from '../../use-cases/submissions/open-home';

export const GET = endpoint({ answer: howManyWait });
