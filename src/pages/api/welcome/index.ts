import { readInvitation as asked } from '../../../contract/people';
import { openEndpoint } from '../../../http/endpoint';
import { readInvitation } from '../../../use-cases/people/take-invitation';

export const POST = openEndpoint({ body: asked, answer: readInvitation });
