import { Agent, request } from 'node:http';

/** Asking the application over loopback, with connections that stay. */
export interface Asker {
  readonly ask: (method: string, path: string, body?: unknown) => Promise<{ status: number; text: string }>;
  readonly close: () => void;
}

export function asker(origin: string, cookie: string, most: number): Asker {
  const agent = new Agent({ keepAlive: true, maxSockets: most });
  const { hostname, port } = new URL(origin);
  return {
    close: () => agent.destroy(),
    ask: (method, path, body) =>
      new Promise((resolve, reject) => {
        const sent = body === undefined ? '' : JSON.stringify(body);
        const asked = request(
          {
            agent,
            hostname,
            port,
            path,
            method,
            headers: {
              ...(cookie !== '' && { cookie }),
              ...(sent !== '' && {
                'content-type': 'application/json',
                'content-length': Buffer.byteLength(sent),
              }),
            },
          },
          (response) => {
            let text = '';
            response.setEncoding('utf8');
            response.on('data', (piece: string) => (text += piece));
            response.on('end', () => resolve({ status: response.statusCode ?? 0, text }));
          },
        );
        asked.on('error', reject);
        asked.end(sent);
      }),
  };
}

/** The cookies of somebody who signed in. */
export async function signedIn(origin: string, email: string, password: string): Promise<string> {
  const entered = await fetch(`${origin}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin },
    body: JSON.stringify({ email, password }),
  });
  if (!entered.ok) throw new Error(`nobody could sign in: ${await entered.text()}`);
  return entered.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');
}

/** Does `work` `rounds` times by `clients` at once; gives milliseconds for one and how many there were in a second. */
export async function timed(
  rounds: number,
  clients: number,
  work: (round: number) => Promise<void>,
): Promise<{ each: number; perSecond: number }> {
  let next = 0;
  const began = performance.now();
  await Promise.all(
    Array.from({ length: clients }, async () => {
      while (next < rounds) await work(next++);
    }),
  );
  const took = performance.now() - began;
  return { each: (took / rounds) * clients, perSecond: (rounds / took) * 1000 };
}
