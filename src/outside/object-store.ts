import { AwsClient } from 'aws4fetch';

/** Where bytes of files lie beside the database: under a name each. Every call has an end; what is not there is null. */
export interface ObjectStore {
  readonly put: (name: string, bytes: Uint8Array) => Promise<void>;
  readonly get: (name: string) => Promise<AsyncIterable<Uint8Array> | null>;
  readonly remove: (name: string) => Promise<void>;
}

/** Milliseconds until an answer must have begun. */
const PATIENCE = 30_000;

/**
 * A bucket of any store that speaks the S3 protocol, as whoever runs the machine has named it by
 * `SLATE_FILES_S3` (its address, with the bucket in the path), `SLATE_FILES_S3_KEY`, `SLATE_FILES_S3_SECRET`
 * and `SLATE_FILES_S3_REGION`; null where they name none, and files are kept in the database.
 */
export function objectStore(env: NodeJS.ProcessEnv = process.env): ObjectStore | null {
  const address = env['SLATE_FILES_S3'] ?? '';
  if (address === '') return null;
  const client = new AwsClient({
    accessKeyId: env['SLATE_FILES_S3_KEY'] ?? '',
    secretAccessKey: env['SLATE_FILES_S3_SECRET'] ?? '',
    region: env['SLATE_FILES_S3_REGION'] ?? 'us-east-1',
    service: 's3',
    // Whoever waits is somebody who has just brought a photo.
    retries: 1,
  });
  const ask = async (method: string, name: string, body?: Uint8Array): Promise<Response> => {
    const answer = await client.fetch(`${address.replace(/\/$/, '')}/${name}`, {
      method,
      signal: AbortSignal.timeout(PATIENCE),
      ...(body !== undefined && { body: new Uint8Array(body) }),
    });
    if (!answer.ok && answer.status !== 404) {
      await answer.body?.cancel();
      throw new Error(`the store of files answered ${answer.status} to ${method}`);
    }
    return answer;
  };
  return {
    put: async (name, bytes) => {
      const { status } = await ask('PUT', name, bytes);
      if (status === 404) throw new Error('the store of files has no such bucket');
    },
    get: async (name) => {
      const answer = await ask('GET', name);
      if (answer.status === 404 || answer.body === null) return null;
      return answer.body as unknown as AsyncIterable<Uint8Array>;
    },
    remove: async (name) => void (await (await ask('DELETE', name)).body?.cancel()),
  };
}
