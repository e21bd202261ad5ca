import { createServer, type Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { epithets, families, genera } from './generate';
import { seeded } from './random';

/** The plant-name register: a small service that answers with a list of made-up plant names. A stand-in for an outside one. */
export const REGISTER_HEADER = 'X-Register-Key';

/** Serves it on loopback; `port` 0 takes a free one. Whoever asks must say the key. */
export async function serveRegister(port: number, key: string): Promise<Server> {
  const answer = JSON.stringify({
    register: 'Register of invented plant names',
    edition: '2026-11',
    names: registerNames(),
  });
  const server = createServer((request, response) => {
    const status =
      request.url !== '/names' ? 404 : request.headers[REGISTER_HEADER.toLowerCase()] === key ? 200 : 401;
    response
      .writeHead(status, { 'content-type': 'application/json' })
      .end(
        status === 200 ? answer : JSON.stringify({ error: status === 404 ? 'no such list' : 'say your key' }),
      );
  });
  await new Promise<void>((listening, failed) =>
    server.once('error', failed).listen(port, '127.0.0.1', listening),
  );
  return server;
}

function registerNames(): Record<string, unknown>[] {
  const random = seeded(40_417);
  const names = genera.flatMap((genus, i) =>
    epithets.map((epithet) => ({ name: `${genus} ${epithet}`, family: families[i % families.length] })),
  );
  return names.map(({ name, family }, i) => {
    const accepted = random.chance(0.85);
    return {
      id: `PNR-${String(i + 1).padStart(5, '0')}`,
      name,
      family,
      rank: random.chance(0.9) ? 'species' : 'hybrid',
      accepted,
      accepted_name: accepted ? null : random.pick(names).name,
      published: random.whole(1821, 2024),
      native_range: {
        region: random.pick(['Isles', 'Southern coast', 'High fens', 'Unknown']),
        threatened: random.chance(0.1),
      },
      synonyms: accepted ? [] : ['see accepted name'],
      checked: `2026-0${random.whole(1, 9)}-${random.whole(10, 28)}`,
    };
  });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const server = await serveRegister(
    Number(process.env['SLATE_REGISTER_PORT']),
    process.env['SLATE_REGISTER_KEY'] ?? '',
  );
  process.send?.('listening');
  for (const signal of ['SIGTERM', 'SIGINT', 'disconnect'] as const)
    process.on(signal, () => server.close(() => process.exit(0)));
}
