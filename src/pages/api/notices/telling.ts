import { howTold as told } from '../../../contract/notices';
import { endpoint } from '../../../http/endpoint';
import { tellByMail } from '../../../use-cases/notices/own-notices';

export const PUT = endpoint({ body: told, answer: (context, { body }) => tellByMail(context, body.byMail) });
