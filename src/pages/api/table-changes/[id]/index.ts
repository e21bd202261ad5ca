import { nothing } from '../../../../contract/imports';
import { saveChange } from '../../../../contract/table-changes';
import { endpoint } from '../../../../http/endpoint';
import { dropTableChange, readTableChange, saveTableChange } from '../../../../use-cases/tables/design-table';

export const GET = endpoint({ answer: (context, { id }) => readTableChange(context, id) });
export const PUT = endpoint({
  body: saveChange,
  answer: (context, { id, body }) => saveTableChange(context, id, body),
});
export const DELETE = endpoint({ body: nothing, answer: (context, { id }) => dropTableChange(context, id) });
