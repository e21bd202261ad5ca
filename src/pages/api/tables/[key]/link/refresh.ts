import { nothing } from '../../../../../contract/imports';
import { endpoint } from '../../../../../http/endpoint';
import { askRefresh } from '../../../../../use-cases/links/link-tables';

export const POST = endpoint({ body: nothing, answer: (context, { key }) => askRefresh(context, key) });
