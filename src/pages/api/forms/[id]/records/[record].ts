import { isUuid } from '../../../../../core/kernel/ids';
import { notFound } from '../../../../../core/kernel/refusal';
import { fail } from '../../../../../core/kernel/result';
import { endpoint } from '../../../../../http/endpoint';
import { recordNow } from '../../../../../use-cases/submissions/record-now';

/** What a record is now, as the form would ask for it. */
export const GET = endpoint({
  answer: (context, { id, params: { record = '' } }) =>
    isUuid(record) ? recordNow(context, id, record) : Promise.resolve(fail(notFound('record'))),
});
