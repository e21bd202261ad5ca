import { createHash, generateKeyPairSync, randomBytes, sign } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { fileURLToPath } from 'node:url';
import { people } from './people';

/** A service by which the people of the garden sign in elsewhere: OpenID Connect, as far as one who signs in needs it. A stand-in; it asks for no password. */
const CLIENT = { id: 'tidy-slate', secret: 'shared-with-the-garden' };

const CODE_SECONDS = 60;

interface Asked {
  readonly email: string;
  readonly nonce: string;
  readonly challenge: string;
  readonly back: string;
  readonly until: number;
}

/** Serves it on loopback; `port` 0 takes a free one. */
export async function serveIdentityProvider(port: number): Promise<Server> {
  const keys = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const codes = new Map<string, Asked>();
  const server = createServer((request, response) => {
    const url = new URL(request.url ?? '/', issuerOf(server));
    const json = (value: unknown, status = 200) =>
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
    switch (`${request.method} ${url.pathname}`) {
      case 'GET /.well-known/openid-configuration':
        return json(configurationOf(issuerOf(server)));
      case 'GET /keys':
        return json({
          keys: [{ ...keys.publicKey.export({ format: 'jwk' }), kid: '1', use: 'sig', alg: 'RS256' }],
        });
      case 'GET /enter':
        return enter(url, codes, response);
      case 'POST /token':
        return void bodyOf(request).then((body) => {
          const given = takenBy(new URLSearchParams(body), request, codes);
          if (given === null) return json({ error: 'invalid_grant' }, 400);
          const token = idToken(issuerOf(server), given, (text) =>
            sign('sha256', Buffer.from(text), keys.privateKey),
          );
          return json({
            access_token: randomBytes(16).toString('hex'),
            token_type: 'Bearer',
            expires_in: 60,
            id_token: token,
          });
        });
      default:
        return response.writeHead(404).end();
    }
  });
  await new Promise<void>((listening, failed) =>
    server.once('error', failed).listen(port, '127.0.0.1', listening),
  );
  return server;
}

function issuerOf(server: Server): string {
  const at = server.address();
  return `http://127.0.0.1:${at !== null && typeof at === 'object' ? at.port : 0}`;
}

const configurationOf = (issuer: string) => ({
  issuer,
  authorization_endpoint: `${issuer}/enter`,
  token_endpoint: `${issuer}/token`,
  jwks_uri: `${issuer}/keys`,
  response_types_supported: ['code'],
  subject_types_supported: ['public'],
  id_token_signing_alg_values_supported: ['RS256'],
  code_challenge_methods_supported: ['S256'],
  token_endpoint_auth_methods_supported: ['client_secret_post', 'client_secret_basic'],
});

/** Asks who it is, and leads back with a code. */
function enter(url: URL, codes: Map<string, Asked>, response: ServerResponse): void {
  const asked = url.searchParams;
  const email = asked.get('as');
  if (email === null) {
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page(url));
    return;
  }
  const code = randomBytes(16).toString('hex');
  const back = asked.get('redirect_uri') ?? '';
  codes.set(code, {
    email,
    nonce: asked.get('nonce') ?? '',
    challenge: asked.get('code_challenge') ?? '',
    back,
    until: Date.now() + CODE_SECONDS * 1_000,
  });
  const to = new URL(back);
  to.searchParams.set('code', code);
  to.searchParams.set('state', asked.get('state') ?? '');
  response.writeHead(303, { location: to.toString() }).end();
}

/** What a code stands for, taken once, by whoever has the secret and the verifier. */
function takenBy(body: URLSearchParams, request: IncomingMessage, codes: Map<string, Asked>): Asked | null {
  const basic = Buffer.from(
    (request.headers.authorization ?? '').replace(/^Basic /, ''),
    'base64',
  ).toString();
  const secret = body.get('client_secret') ?? decodeURIComponent(basic.split(':')[1] ?? '');
  const code = body.get('code') ?? '';
  const asked = codes.get(code);
  codes.delete(code);
  const challenge = createHash('sha256')
    .update(body.get('code_verifier') ?? '')
    .digest('base64url');
  const isGood =
    asked !== undefined &&
    secret === CLIENT.secret &&
    asked.until > Date.now() &&
    asked.challenge === challenge &&
    asked.back === body.get('redirect_uri');
  return isGood ? asked : null;
}

function idToken(issuer: string, { email, nonce }: Asked, signed: (text: string) => Buffer): string {
  const now = Math.floor(Date.now() / 1_000);
  const part = (value: unknown): string => Buffer.from(JSON.stringify(value)).toString('base64url');
  const name = people.find((one) => one.email === email)?.name ?? email;
  const claims = {
    iss: issuer,
    aud: CLIENT.id,
    sub: createHash('sha256').update(email).digest('hex').slice(0, 20),
    iat: now,
    exp: now + CODE_SECONDS,
    nonce,
    email,
    email_verified: true,
    name,
  };
  const text = `${part({ alg: 'RS256', kid: '1', typ: 'JWT' })}.${part(claims)}`;
  return `${text}.${signed(text).toString('base64url')}`;
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  let body = '';
  for await (const piece of request as AsyncIterable<Buffer>)
    if (body.length < 20_000) body += piece.toString('utf8');
  return body;
}

function page(url: URL): string {
  const links = [
    ...people.map(({ name, email }) => ({ name, email })),
    { name: 'Somebody else', email: 'somebody.else@quillmere.example' },
  ]
    .map(({ name, email }) => {
      const to = new URL(url);
      to.searchParams.set('as', email);
      return `<li><a href="${to.toString().replaceAll('&', '&amp;')}">${name}</a></li>`;
    })
    .join('');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Garden account</title><h1>Garden account</h1><p>A stand-in: pick who you are.</p><ul>${links}</ul></html>`;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const server = await serveIdentityProvider(Number(process.env['SLATE_IDENTITY_PORT']));
  process.send?.('listening');
  for (const signal of ['SIGTERM', 'SIGINT', 'disconnect'] as const)
    process.on(signal, () => {
      server.close(() => process.exit(0));
      server.closeAllConnections();
    });
}
