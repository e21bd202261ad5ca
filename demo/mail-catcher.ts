import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { simpleParser, type AddressObject } from 'mailparser';
import { SMTPServer } from 'smtp-server';

/**
 * Where mails of the sample world end: an SMTP server on loopback that sends nothing on, and a page that shows what came. A stand-in for an outside
 * mail server and everybody's mailbox.
 */
const MOST = 200;
const MOST_BYTES = 1 << 20;

export interface CaughtMail {
  readonly id: string;
  readonly to: string;
  readonly subject: string;
  readonly at: string;
  readonly text: string;
}

/** Listens on both ports; 0 takes free ones. Mails are kept as they came in `folder`, the last 200. */
export async function catchMail(folder: string, ports: { smtp: number; page: number }): Promise<Server> {
  mkdirSync(folder, { recursive: true });
  const smtp = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    onData: (stream, session, done) => {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => void parts.push(part));
      stream.on('end', () => {
        if (stream.sizeExceeded) return done(Object.assign(new Error('too large'), { responseCode: 552 }));
        void keep(folder, Buffer.concat(parts), session.envelope.rcptTo[0]?.address ?? '').then(
          () => done(),
          (error: unknown) => done(error instanceof Error ? error : new Error('not kept')),
        );
      });
    },
  });
  smtp.on('error', () => undefined);
  await new Promise<void>((listening) => smtp.listen(ports.smtp, '127.0.0.1', listening));
  const page = createServer((request, response) => {
    void answer(folder, request.url ?? '/').then(({ type, body }) =>
      response
        .writeHead(200, {
          'content-type': type,
          'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
          'cache-control': 'no-store',
        })
        .end(body),
    );
  });
  await new Promise<void>((listening, failed) =>
    page.once('error', failed).listen(ports.page, '127.0.0.1', listening),
  );
  return page;
}

/** By its Message-ID: a mail that is sent again is the same mail, as in any mailbox. */
async function keep(folder: string, bytes: Buffer, to: string): Promise<void> {
  const { messageId } = await simpleParser(bytes);
  const name = createHash('sha256')
    .update(`${messageId ?? ''} ${to}`)
    .digest('hex')
    .slice(0, 24);
  const files = readdirSync(folder).sort();
  if (files.some((file) => file.endsWith(`-${name}.eml`))) return;
  writeFileSync(join(folder, `${String(Date.now()).padStart(15, '0')}-${name}.eml`), bytes);
  for (const old of files.slice(0, Math.max(0, files.length + 1 - MOST))) rmSync(join(folder, old));
}

/** What came, newest first. */
async function caught(folder: string): Promise<CaughtMail[]> {
  const files = readdirSync(folder)
    .filter((file) => file.endsWith('.eml'))
    .sort()
    .reverse();
  return Promise.all(
    files.map(async (file) => {
      const mail = await simpleParser(readFileSync(join(folder, file)));
      return {
        id: file.slice(0, -'.eml'.length),
        to: addresses(mail.to),
        subject: mail.subject ?? '',
        at: new Date(Number(file.slice(0, 15))).toISOString(),
        text: mail.text ?? '',
      };
    }),
  );
}

const addresses = (to: AddressObject | AddressObject[] | undefined): string =>
  [to ?? []]
    .flat()
    .map(({ text }) => text)
    .join(', ');

async function answer(folder: string, url: string): Promise<{ type: string; body: string }> {
  const mails = await caught(folder);
  if (url.startsWith('/mails.json')) return { type: 'application/json', body: JSON.stringify(mails) };
  const shown = mails.map(
    ({ to, subject, at, text }) =>
      `<article><h2>${escaped(subject)}</h2><p class="q">${escaped(to)} · ${at.slice(0, 16).replace('T', ' ')}</p><pre dir="auto">${linked(text)}</pre></article>`,
  );
  return {
    type: 'text/html; charset=utf-8',
    body: `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Mails of the sample world</title><style>${STYLE}</style><main><h1>Mails of the sample world</h1><p class="q">Nothing leaves this machine. The last ${MOST} are kept.</p>${shown.join('') || '<p>No mail has come yet.</p>'}</main></html>`,
  };
}

const STYLE =
  'body{font:16px/1.5 system-ui,sans-serif;background:#eceae4;color:#23282d;margin:0}main{max-width:46rem;margin:auto;padding:1rem}h1{font-size:1.4rem}article{background:#fff;border:1px solid #cfccc4;padding:.7rem 1rem;margin:.8rem 0}h2{font-size:1.05rem;margin:0}.q{color:#5a6067;margin:.2rem 0}pre{white-space:pre-wrap;overflow-wrap:anywhere;font:inherit;margin:.6rem 0 0}';

const escaped = (text: string): string => text.replace(/[&<>"']/g, (one) => `&#${one.charCodeAt(0)};`);
/** Addresses of this machine can be followed. */
const linked = (text: string): string =>
  escaped(text).replace(/http:\/\/127\.0\.0\.1:\d+\/[\w/#.-]*/g, (at) => `<a href="${at}">${at}</a>`);

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await catchMail(process.env['SLATE_MAIL_FOLDER'] ?? '', {
    smtp: Number(process.env['SLATE_SMTP_PORT']),
    page: Number(process.env['SLATE_MAIL_PAGE_PORT']),
  });
  process.send?.('listening');
  process.on('SIGTERM', () => process.exit(0));
  process.on('disconnect', () => process.exit(0));
}
