import { endpoint } from '../../../http/endpoint';
import { endCalendar, makeCalendar } from '../../../use-cases/notices/own-notices';

export const POST = endpoint({ answer: makeCalendar });
export const DELETE = endpoint({ answer: endCalendar });
