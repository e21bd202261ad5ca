import type { APIRoute } from 'astro';
import { isReady } from '../../use-cases/workspace/is-ready';

/** `up`: this process answers. `ready`: it reaches its database, so it can do its work; not asked with `?only=up`. Says nothing else. */
export const GET: APIRoute = async ({ url }) => {
  if (url.searchParams.get('only') === 'up') return Response.json({ up: true });
  const ready = await isReady();
  return Response.json(
    { up: true, ready },
    { status: ready ? 200 : 503, ...(!ready && { headers: { 'retry-after': '2' } }) },
  );
};
