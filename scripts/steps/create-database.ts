import pg from 'pg';

/** Makes the database of a URL when the server does not have it. */
export async function createDatabase(url: string): Promise<void> {
  const name = decodeURIComponent(new URL(url).pathname.slice(1));
  if (await reachable(url)) return;
  const server = new URL(url);
  server.pathname = '/postgres';
  const client = new pg.Client({ connectionString: server.toString() });
  await client.connect();
  try {
    await client.query(`CREATE DATABASE ${client.escapeIdentifier(name)} ENCODING 'UTF8' TEMPLATE template0`);
  } finally {
    await client.end();
  }
}

async function reachable(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
    return true;
  } catch (error) {
    // 3D000: the server answers, and there is no such database.
    if (typeof error === 'object' && error !== null && 'code' in error && error.code === '3D000')
      return false;
    throw error;
  } finally {
    await client.end().catch(() => undefined);
  }
}
