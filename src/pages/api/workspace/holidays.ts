import { holidaysAsked } from '../../../contract/workspace';
import { endpoint } from '../../../http/endpoint';
import { previewHolidays } from '../../../use-cases/workspace/keep-settings';

export const GET = endpoint({
  query: holidaysAsked,
  answer: (context, { query }) => previewHolidays(context, query),
});
