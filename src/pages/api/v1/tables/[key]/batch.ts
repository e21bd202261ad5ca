import { batchBody } from '../../../../../contract/api';
import { ok } from '../../../../../core/kernel/result';
import { limits } from '../../../../../core/limits';
import { apiEndpoint } from '../../../../../http/api-endpoint';
import { writeRecords } from '../../../../../use-cases/api/write-records';

export const POST = apiEndpoint({
  body: batchBody,
  most: limits.batchBytes,
  answer: async (context, { key, body, request }) => {
    const at = (i: number) => ['edits', i, 'values'];
    const written = await writeRecords(context, key, { key: request, edits: body.edits, at });
    return written.ok ? ok({ status: 200, body: { records: written.value } }) : written;
  },
});
