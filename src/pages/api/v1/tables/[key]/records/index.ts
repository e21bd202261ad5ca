import { listQuery, recordBody } from '../../../../../../contract/api';
import { API } from '../../../../../../core/api/open-api';
import { ok } from '../../../../../../core/kernel/result';
import { apiEndpoint, tagOf } from '../../../../../../http/api-endpoint';
import { listRecords, readOne } from '../../../../../../use-cases/api/list-records';
import { writeRecords } from '../../../../../../use-cases/api/write-records';

export const GET = apiEndpoint({
  query: listQuery,
  answer: async (context, { key, query, url }) => {
    const listed = await listRecords(context, key, query);
    if (!listed.ok) return listed;
    const { records, next, total } = listed.value;
    const on = new URL(url);
    if (next !== null) on.searchParams.set('after', next);
    const address = next === null ? null : `${API}/tables/${key}/records${on.search}`;
    return ok({
      status: 200,
      body: { records, next: address, ...(total !== null && { total }) },
      ...(address !== null && { headers: { link: `<${address}>; rel="next"` } }),
    });
  },
});

export const POST = apiEndpoint({
  body: recordBody,
  answer: async (context, { key, body, request }) => {
    const edits = [{ op: 'add' as const, values: body }];
    const written = await writeRecords(context, key, { key: request, edits, at: () => [] });
    if (!written.ok) return written;
    const record = await readOne(context, key, written.value[0]?.id ?? '');
    if (!record.ok) return record;
    return ok({
      status: 201,
      body: record.value,
      headers: {
        location: `${API}/tables/${key}/records/${written.value[0]?.id ?? ''}`,
        etag: tagOf(record.value.version),
      },
    });
  },
});
