import { runChange } from '../../../../contract/table-changes';
import { endpoint } from '../../../../http/endpoint';
import { runTableChange } from '../../../../use-cases/tables/change-table';

export const POST = endpoint({
  body: runChange,
  answer: (context, { id, body }) => runTableChange(context, id, body),
});
