import { recordBody } from '../../../../../../contract/api';
import { ok } from '../../../../../../core/kernel/result';
import { apiEndpoint, tagOf, versionSaid } from '../../../../../../http/api-endpoint';
import { readOne } from '../../../../../../use-cases/api/list-records';
import { writeRecords } from '../../../../../../use-cases/api/write-records';

export const GET = apiEndpoint({
  answer: async (context, { key, id, headers }) => {
    const record = await readOne(context, key, id);
    if (!record.ok) return record;
    const etag = tagOf(record.value.version);
    return headers.get('if-none-match') === etag
      ? ok({ status: 304, headers: { etag } })
      : ok({ status: 200, body: record.value, headers: { etag } });
  },
});

export const PATCH = apiEndpoint({
  body: recordBody,
  type: 'application/merge-patch+json',
  answer: async (context, { key, id, body, request, headers }) => {
    const version = versionSaid(headers);
    if (!version.ok) return version;
    const edits = [{ op: 'change' as const, id, version: version.value, values: body }];
    const written = await writeRecords(context, key, { key: request, edits, at: () => [] });
    if (!written.ok) return written;
    const record = await readOne(context, key, id);
    return record.ok
      ? ok({ status: 200, body: record.value, headers: { etag: tagOf(record.value.version) } })
      : record;
  },
});

export const DELETE = apiEndpoint({
  answer: async (context, { key, id, request, headers }) => {
    const version = versionSaid(headers);
    if (!version.ok) return version;
    const edits = [{ op: 'remove' as const, id, version: version.value }];
    const written = await writeRecords(context, key, { key: request, edits, at: () => [] });
    return written.ok ? ok({ status: 204 }) : written;
  },
});
