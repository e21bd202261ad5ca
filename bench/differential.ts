import pg from 'pg';
import { compareAtRandom, makeSubjects } from '../tests/support/differential';

/** Twenty thousand expressions made at random, each over forty records with their rows: closures against PostgreSQL, exactly equal. */
const [CASES, RECORDS, SEED] = [20_000, 40, 2026];
const client = new pg.Client({ connectionString: process.env['SLATE_OWNER_URL'] });
await client.connect();
try {
  const began = performance.now();
  const { expressions, values, empty, differences } = await compareAtRandom(
    client,
    await makeSubjects(client, SEED, RECORDS),
    SEED,
    CASES,
  );
  for (const one of differences.slice(0, 5)) console.log(JSON.stringify(one));
  console.log(
    `closures against SQL: ${expressions} expressions made at random, ${values} values, ${Math.round((empty / values) * 100)} % of them empty, ${differences.length} expressions differ; ${((performance.now() - began) / 1000).toFixed(0)} s`,
  );
  if (differences.length > 0) process.exitCode = 1;
} finally {
  await client.query('DROP SCHEMA IF EXISTS differential CASCADE');
  await client.end();
}
