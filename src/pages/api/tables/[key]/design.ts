import { endpoint } from '../../../../http/endpoint';
import { openTableDesign } from '../../../../use-cases/tables/design-table';

export const GET = endpoint({ answer: (context, { key }) => openTableDesign(context, key) });
