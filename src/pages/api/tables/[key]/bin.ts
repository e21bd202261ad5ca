import { endpoint } from '../../../../http/endpoint';
import { openBin } from '../../../../use-cases/records/open-bin';

export const GET = endpoint({ answer: (context, { key }) => openBin(context, key) });
