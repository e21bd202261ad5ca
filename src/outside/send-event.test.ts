import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Webhook } from 'standardwebhooks';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { triedEvent } from '../core/event/event';
import { placeOf, sendEvent } from './send-event';

/** A receiver on loopback, which answers as it is told. */
let answer: (request: IncomingMessage, response: ServerResponse, body: string) => void;
let asked = 0;
const server = createServer((request, response) => {
  const pieces: Buffer[] = [];
  request.on('data', (piece: Buffer) => pieces.push(piece));
  request.on('end', () => {
    asked++;
    answer(request, response, Buffer.concat(pieces).toString('utf8'));
  });
});
const secret = `whsec_${Buffer.from('a secret of this test, and long enough').toString('base64')}`;
const event = triedEvent('0190', 'https://slate.example', new Date());
const port = (): number => (server.address() as AddressInfo).port;
const send = (host = '127.0.0.1', at = port()) =>
  sendEvent({ url: `http://${host}:${at}/told?by=slate`, secret }, event, new Date());

beforeEach(async () => {
  asked = 0;
  vi.stubEnv('SLATE_SOURCES_INSIDE', '127.0.0.1');
  await new Promise<void>((listening) => void server.listen(0, '127.0.0.1', listening));
});
afterEach(async () => {
  server.closeAllConnections();
  await new Promise((closed) => server.close(closed));
});

it('sends an event that its receiver can tell is ours, by the standard', async () => {
  const came: { headers: IncomingMessage['headers']; body: string; url: string | undefined }[] = [];
  answer = ({ headers, url }, response, body) => {
    came.push({ headers, body, url });
    response.writeHead(204).end();
  };
  expect(await send()).toMatchObject({ status: 204, fault: null });
  const [{ headers, body, url } = { headers: {}, body: '', url: '' }] = came;
  expect(new Webhook(secret).verify(body, headers as Record<string, string>)).toEqual(event);
  expect(() =>
    new Webhook(`${secret.slice(0, -8)}AAAAAAA=`).verify(body, headers as Record<string, string>),
  ).toThrow();
  expect([url, headers['content-type'], headers['webhook-id']]).toEqual([
    '/told?by=slate',
    'application/cloudevents+json; charset=UTF-8',
    'event_0190',
  ]);
});

it('is led nowhere else, and takes no other answer for a yes', async () => {
  answer = (_, response) =>
    void response.writeHead(302, { location: `http://127.0.0.1:${port()}/other` }).end();
  expect(await send()).toMatchObject({ status: 302, fault: 'redirect' });
  expect(asked).toBe(1);
  answer = (_, response) => void response.writeHead(500).end('x'.repeat(3_000_000));
  expect(await send()).toMatchObject({ status: 500, fault: 'answer' });
});

it('stands what breaks off, and a place where nobody answers', async () => {
  answer = (_, response) => {
    response.writeHead(200, { 'content-length': '100' }).write('half');
    setTimeout(() => response.destroy(), 5);
  };
  expect(await send()).toMatchObject({ status: 200, fault: null });
  answer = (request) => void request.socket.destroy();
  expect(await send()).toMatchObject({ status: null, fault: 'no-answer' });
  await new Promise((after) => setTimeout(after, 30));
});

it('tells nothing inside that nobody has named', async () => {
  vi.stubEnv('SLATE_SOURCES_INSIDE', '');
  expect(await send()).toMatchObject({ status: null, fault: 'inside' });
  expect(await send('localhost')).toMatchObject({ fault: 'inside' });
  expect(asked).toBe(0);
  expect(
    await Promise.all(
      ['https://10.0.0.1/', 'http://8.8.8.8/', 'nowhere', 'https://a:b@8.8.8.8/'].map(placeOf),
    ),
  ).toEqual(['inside', 'plain', 'no-address', 'no-address']);
});
