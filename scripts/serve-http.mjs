import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import compression from 'compression';
import sirv from 'sirv';

/** One of the processes that answer on the port; `serve.mjs` makes as many as there are cores. */
const { handler } = await import('../dist/server/entry.mjs');

const port = Number(process.env.PORT ?? 4321);
const host = process.env.HOST ?? '127.0.0.1';
const trustedProxy = process.env.SLATE_TRUSTED_PROXY === 'yes';
const forwarded = [
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-forwarded-port',
  'forwarded',
  'x-real-ip',
];
const methods = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE']);
/** More than any door takes (2 MB); each door has its own bound within. */
const MOST_BYTES = 4 * 1024 * 1024;
/** What is said of a body that is too large is read by its sender only when not all is cut off at once. */
const LINGER_MS = 500;

// A stream that must arrive line by line cannot be compressed in blocks.
const compress = compression({
  filter: (request, response) =>
    !String(response.getHeader('content-type')).startsWith('text/event-stream') &&
    compression.filter(request, response),
});

/** Known by name from the start, so that what is no file costs nothing to find out. What the build names by its content never changes. */
const files = sirv(fileURLToPath(new URL('../dist/client', import.meta.url)), {
  etag: true,
  setHeaders(response, path) {
    if (path.startsWith('/_astro/'))
      response.setHeader('cache-control', 'public, max-age=31536000, immutable');
  },
});

const server = createServer({ connectionsCheckingInterval: 2_000 }, (request, response) => {
  if (!methods.has(request.method)) return refuse(request, response, 405, { allow: [...methods].join(', ') });
  if (Number(request.headers['content-length'] ?? 0) > MOST_BYTES) return refuse(request, response, 413);
  trueAddress(request);
  number(request, response);
  countBody(request);
  response.setHeader('x-content-type-options', 'nosniff');
  compress(request, response, () => files(request, response, () => handler(request, response)));
});
server.headersTimeout = 15_000;
// For the whole of a request, its body too: a piece of a file, 1 MB, comes through a line of 280 kbit/s in that time.
server.requestTimeout = 30_000;
server.maxHeadersCount = 100;
server.listen(port, host);

/** For an answer that cannot be ended well the application breaks the connection; it knows a request by its number. */
const cuts = (globalThis[Symbol.for('tidy-slate connections')] = new Map());
let requests = 0;
function number(request, response) {
  const id = String(++requests);
  request.headers['x-slate-request'] = id;
  cuts.set(id, () => request.socket.destroy());
  response.once('close', () => cuts.delete(id));
}

/** The address the application may believe: the one at the other end, or what our own proxy says of it. */
function trueAddress(request) {
  const behind = trustedProxy
    ? String(request.headers['x-forwarded-for'] ?? '')
        .split(',')
        .at(-1)
        .trim()
    : '';
  if (!trustedProxy)
    request.headers = Object.fromEntries(
      Object.entries(request.headers).filter(([name]) => !forwarded.includes(name)),
    );
  request.headers['x-slate-address'] = behind || (request.socket.remoteAddress ?? '');
}

/** Counts what comes as it is read, so that a body without a length, or with a false one, ends at the bound too. */
function countBody(request) {
  const read = request[Symbol.asyncIterator].bind(request);
  request[Symbol.asyncIterator] = async function* () {
    let bytes = 0;
    for await (const chunk of read()) {
      bytes += chunk.length;
      if (bytes > MOST_BYTES) throw new Error('the body is larger than anything that is taken');
      yield chunk;
    }
  };
}

/**
 * Whoever still sends must be able to read the answer: it says how long it is, and the connection is ended a moment later. Ended at once, with what was sent unread, the
 * answer would be thrown away with it.
 */
function refuse(request, response, status, headers = {}) {
  const title = status === 413 ? 'That is more than can be sent at once' : 'This is not answered here';
  const body = JSON.stringify({
    type: `tag:tidy-slate.example,2026:${status === 413 ? 'too-large' : 'method'}`,
    title,
    status,
    code: status === 413 ? 'too-large' : 'method',
  });
  response.writeHead(status, {
    'content-type': 'application/problem+json',
    'x-content-type-options': 'nosniff',
    'cache-control': 'no-store',
    'content-length': Buffer.byteLength(body),
    connection: 'close',
    ...headers,
  });
  response.write(body);
  request.resume();
  const end = setTimeout(() => response.end(), LINGER_MS);
  request.once('end', () => {
    clearTimeout(end);
    response.end();
  });
  request.once('error', () => clearTimeout(end));
}

// A promise that nobody waited for must not end everybody's work; it is logged as the fault it is.
process.on('unhandledRejection', (error) => {
  process.stderr.write(
    `${JSON.stringify({ level: 50, time: Date.now(), where: 'unhandled rejection', stack: error instanceof Error ? frames(error) : typeof error })}\n`,
  );
});
const frames = (error) =>
  [
    error.name,
    ...String(error.stack)
      .split('\n')
      .filter((line) => line.trimStart().startsWith('at ')),
  ]
    .slice(0, 12)
    .join('\n');

let stopping = false;
function stop() {
  if (stopping) return;
  stopping = true;
  server.close(() => process.exit(0));
  // Live streams stay open until they are cut.
  setTimeout(() => server.closeAllConnections(), 300);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// Whoever made us was killed: nobody would stop us, so we stop.
process.on('disconnect', stop);
