import { askForPassword } from '../../../contract/people';
import { openEndpoint } from '../../../http/endpoint';
import { forgot } from '../../../use-cases/people/take-invitation';

export const POST = openEndpoint({ body: askForPassword, answer: forgot });
