import { createHash, createHmac } from 'node:crypto';
import { createServer, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A store that speaks as much of the S3 protocol as files need, on loopback: it takes only what is signed with its secret, worked out here once more. */
export async function objectStoreStandIn(key: string, secret: string) {
  const objects = new Map<string, Buffer>();
  let silent = false;
  const server = createServer((request, response) => {
    void (async () => {
      const body = await bytesOf(request);
      if (silent) return response.writeHead(503).end();
      if (!isSigned(request, body, key, secret)) return response.writeHead(403).end();
      const name = request.url ?? '';
      const known = objects.get(name);
      if (request.method === 'PUT') objects.set(name, body);
      if (request.method === 'DELETE') objects.delete(name);
      if (request.method !== 'GET') return response.writeHead(request.method === 'PUT' ? 200 : 204).end();
      return known === undefined ? response.writeHead(404).end() : response.writeHead(200).end(known);
    })();
  });
  await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
  return {
    env: {
      SLATE_FILES_S3: `http://127.0.0.1:${(server.address() as AddressInfo).port}/garden`,
      SLATE_FILES_S3_KEY: key,
      SLATE_FILES_S3_SECRET: secret,
      SLATE_FILES_S3_REGION: 'eu-test-1',
    },
    objects,
    fallSilent: (on: boolean) => void (silent = on),
    close: () => server.close(),
  };
}

async function bytesOf(request: IncomingMessage): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of request) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
}

const sha = (bytes: string | Buffer): string => createHash('sha256').update(bytes).digest('hex');
const hmac = (key: string | Buffer, text: string): Buffer => createHmac('sha256', key).update(text).digest();

/** AWS Signature Version 4, as its documentation describes it. */
function isSigned(request: IncomingMessage, body: Buffer, key: string, secret: string): boolean {
  const said =
    /Credential=([^/]+)\/(\d{8})\/([^/]+)\/s3\/aws4_request, SignedHeaders=([^,]+), Signature=(\w+)/.exec(
      request.headers.authorization ?? '',
    );
  if (said === null) return false;
  const [, who, day = '', region = '', signed = '', signature] = said;
  const payload = String(request.headers['x-amz-content-sha256']);
  if (payload !== 'UNSIGNED-PAYLOAD' && payload !== sha(body)) return false;
  const [path = '', query = ''] = (request.url ?? '').split('?');
  const headers = signed.split(';').map((name) => `${name}:${String(request.headers[name]).trim()}\n`);
  const canonical = [request.method, path, query, headers.join(''), signed, payload].join('\n');
  const text = [
    'AWS4-HMAC-SHA256',
    request.headers['x-amz-date'],
    `${day}/${region}/s3/aws4_request`,
    sha(canonical),
  ];
  const signing = [region, 's3', 'aws4_request'].reduce<Buffer>(hmac, hmac(`AWS4${secret}`, day));
  return who === key && hmac(signing, text.join('\n')).toString('hex') === signature;
}
