import { createServer, type Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { epithets, families, genera } from './generate';
import { groups, managers, people } from './people';
import { seeded } from './random';

/** Two lists outside, of made-up plant names and of the garden's staff as the office knows them. A stand-in for services elsewhere. */
export const REGISTER_HEADER = 'X-Register-Key';

/** Serves it on loopback; `port` 0 takes a free one. Whoever asks must say the key. */
export async function serveRegisters(port: number, key: string): Promise<Server> {
  const answers: Readonly<Record<string, string>> = {
    '/names': JSON.stringify({
      register: 'Register of invented plant names',
      edition: '2026-11',
      names: registerNames(),
    }),
    '/staff': JSON.stringify({ office: 'Quillmere Botanic Garden', staff: staff() }),
  };
  const server = createServer((request, response) => {
    const answer = answers[request.url ?? ''];
    const status =
      answer === undefined ? 404 : request.headers[REGISTER_HEADER.toLowerCase()] === key ? 200 : 401;
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

/** Two have come since the workspace was set up, and one works elsewhere now. */
const newcomers = [
  {
    givenName: 'Linnet',
    familyName: 'Abara',
    department: 'Fern house',
    groups: ['Glasshouses'],
    managerId: 2,
  },
  {
    givenName: 'Soren',
    familyName: 'Haldane',
    department: 'Nursery',
    groups: ['Glasshouses'],
    managerId: 11,
  },
];

function staff(): Record<string, unknown>[] {
  const idOf = (first: string): number => people.findIndex(({ name }) => name.startsWith(first)) + 1;
  const known = people.map(({ name, place }, i) => {
    const [givenName = '', familyName = ''] = name.split(' ');
    const above = managers.find(([who]) => who === givenName)?.[1];
    return {
      id: i + 1,
      givenName,
      familyName,
      department: givenName === 'Ilse' ? 'Nursery' : place,
      groups: groups.filter(({ people: all }) => all.includes(givenName)).map(({ label }) => label),
      managerId: above === undefined ? null : idOf(above),
    };
  });
  return [...known, ...newcomers.map((one, i) => ({ id: people.length + i + 1, ...one }))].map((one) => ({
    ...one,
    email: `${one.givenName}.${one.familyName}@quillmere.example`.toLowerCase(),
    active: true,
  }));
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const server = await serveRegisters(
    Number(process.env['SLATE_REGISTER_PORT']),
    process.env['SLATE_REGISTER_KEY'] ?? '',
  );
  process.send?.('listening');
  for (const signal of ['SIGTERM', 'SIGINT', 'disconnect'] as const)
    process.on(signal, () => server.close(() => process.exit(0)));
}
