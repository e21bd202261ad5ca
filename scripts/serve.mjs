import { fork } from 'node:child_process';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import compression from 'compression';

process.env.ASTRO_NODE_AUTOSTART = 'disabled';
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
// A stream that must arrive line by line cannot be compressed in blocks.
const compress = compression({
  filter: (request, response) =>
    !String(response.getHeader('content-type')).startsWith('text/event-stream') &&
    compression.filter(request, response),
});

const server = createServer((request, response) => {
  if (!trustedProxy)
    request.headers = Object.fromEntries(
      Object.entries(request.headers).filter(([name]) => !forwarded.includes(name)),
    );
  compress(request, response, () => handler(request, response));
});
server.headersTimeout = 15_000;
server.requestTimeout = 60_000;
server.maxHeadersCount = 100;
server.listen(port, host, () => process.send?.('listening'));

// What takes long is done beside the server; a worker that ends is begun again, and takes up what was under way.
let worker = null;
let stopping = false;
/** What ends again and again is begun again more and more seldom. */
const [PAUSE_MS, LONGEST_MS, STEADY_MS] = [1_000, 30_000, 60_000];
let pause = PAUSE_MS;
function work() {
  const begun = Date.now();
  worker = fork(fileURLToPath(new URL('../src/jobs/worker.ts', import.meta.url)), [], {
    execArgv: ['--import', 'tsx'],
  });
  worker.once('exit', () => {
    if (stopping) return;
    if (Date.now() - begun > STEADY_MS) pause = PAUSE_MS;
    setTimeout(work, pause);
    pause = Math.min(pause * 2, LONGEST_MS);
  });
}
if (process.env.SLATE_WORKER !== 'no') work();

function stop() {
  if (stopping) return;
  stopping = true;
  worker?.kill('SIGTERM');
  server.close(() => process.exit(0));
  // Live streams stay open until they are cut.
  setTimeout(() => server.closeAllConnections(), 300);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// The start that made us was killed: nobody would stop us, so we stop.
process.on('disconnect', stop);
