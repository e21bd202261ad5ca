import type { APIRoute } from 'astro';

/** Up and answering; says nothing else. */
export const GET: APIRoute = () => Response.json({ up: true });
