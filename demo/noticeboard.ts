import { createServer, type IncomingMessage, type Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { Webhook, WebhookVerificationError } from 'standardwebhooks';

/** A noticeboard on somebody else's site: it is told what happens, believes what is signed, and shows it. A stand-in for a program outside. */
const MOST = 200;
const MOST_BYTES = 2 * 1024 * 1024;

interface Notice {
  readonly id: string;
  readonly type: string;
  readonly time: string;
  readonly data: Readonly<Record<string, unknown>>;
}

/** Serves it on loopback; `port` 0 takes a free one. `/events` is told; `/` shows what was, `/events.json` to programs. */
export async function serveNoticeboard(port: number, secret: string): Promise<Server> {
  const receiver = new Webhook(secret);
  // Told twice, it is one notice: the id is the same.
  const notices = new Map<string, Notice>();
  let answers = true;
  const server = createServer((request, response) => {
    void bodyOf(request).then((body) => {
      const url = request.url ?? '/';
      if (request.method === 'POST' && url === '/answers') {
        answers = body.includes('yes');
        return response.writeHead(303, { location: '/' }).end();
      }
      if (request.method === 'POST' && url === '/events') {
        if (!answers) return response.writeHead(503).end();
        const status = taken(receiver, request, body, notices);
        return response.writeHead(status).end();
      }
      const [type, text] =
        url === '/events.json'
          ? ['application/json', JSON.stringify([...notices.values()].reverse())]
          : ['text/html; charset=utf-8', page([...notices.values()].reverse(), answers)];
      return response.writeHead(200, { 'content-type': type }).end(text);
    });
  });
  await new Promise<void>((listening, failed) =>
    server.once('error', failed).listen(port, '127.0.0.1', listening),
  );
  return server;
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  let body = '';
  for await (const piece of request as AsyncIterable<Buffer>)
    if (body.length < MOST_BYTES) body += piece.toString('utf8');
  return body;
}

function taken(
  receiver: Webhook,
  { headers }: IncomingMessage,
  body: string,
  notices: Map<string, Notice>,
): number {
  try {
    const event = receiver.verify(body, headers as Record<string, string>) as Notice;
    notices.set(event.id, event);
    const [oldest] = notices.keys();
    if (notices.size > MOST && oldest !== undefined) notices.delete(oldest);
    return 204;
  } catch (error) {
    return error instanceof WebhookVerificationError ? 401 : 400;
  }
}

const STYLE =
  'body{font:16px/1.5 Georgia,serif;background:#efe6d2;color:#33281a;margin:0}main{max-width:46rem;margin:auto;padding:1rem}article{background:#fffdf6;border:1px solid #d8c9a6;padding:.6rem 1rem;margin:.7rem 0}h1{font-size:1.5rem}h2{font-size:1.05rem;margin:0}pre{white-space:pre-wrap;overflow-wrap:anywhere;font-size:.85rem;margin:.4rem 0 0}button{font:inherit}';

const page = (notices: readonly Notice[], answers: boolean): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Noticeboard</title><style>${STYLE}</style><main><h1>Noticeboard</h1><p>What the garden told us, newest first. The last ${MOST} are kept.</p><form method="post" action="/answers"><p>${answers ? 'It takes what it is told.' : 'It takes nothing now: whoever tells it something has to come again.'} <button name="answers" value="${answers ? 'no' : 'yes'}">${answers ? 'Take nothing for a while' : 'Take it again'}</button></p></form>${notices.map(({ type, time, data }) => `<article><h2>${escaped(type)}</h2>${escaped(time)}<pre>${escaped(JSON.stringify(data, null, 1))}</pre></article>`).join('') || '<p>Nothing yet.</p>'}</main></html>`;

const escaped = (text: string): string => text.replace(/[&<>"']/g, (one) => `&#${one.charCodeAt(0)};`);

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const server = await serveNoticeboard(
    Number(process.env['SLATE_NOTICEBOARD_PORT']),
    process.env['SLATE_NOTICEBOARD_SECRET'] ?? '',
  );
  process.send?.('listening');
  for (const signal of ['SIGTERM', 'SIGINT', 'disconnect'] as const)
    process.on(signal, () => {
      server.close(() => process.exit(0));
      server.closeAllConnections();
    });
}
