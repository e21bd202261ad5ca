import { defineMiddleware } from 'astro:middleware';
import { problem, fault } from './http/problem';
import { logFault } from './use-cases/log-fault';
import { whoAsks } from './use-cases/who-asks';

const open = (path: string): boolean =>
  path === '/sign-in' || path.startsWith('/api/auth/') || path === '/api/health';

/** Who asks, and whether the request came from our own pages. A foreign page must not be able to act for a signed-in person. */
export const onRequest = defineMiddleware(async (context, next) => {
  const { pathname } = context.url;
  const isApi = pathname.startsWith('/api/');
  try {
    if (pathname.includes('%00') || context.url.search.includes('%00'))
      return problem({ kind: 'not-found', what: 'page' });
    if (!sameOrigin(context.request, context.url)) return problem({ kind: 'forbidden', why: 'origin' });
    context.locals.person = pathname === '/api/health' ? null : await whoAsks(context.request.headers);
    if (context.locals.person === null && !open(pathname)) {
      return isApi
        ? problem({ kind: 'forbidden', why: 'sign-in' })
        : context.redirect(`/sign-in?to=${encodeURIComponent(pathname + context.url.search)}`);
    }
    const response = await next();
    response.headers.set('cache-control', 'no-store');
    allowStyleAttributes(response.headers);
    response.headers.set('x-content-type-options', 'nosniff');
    response.headers.set('referrer-policy', 'same-origin');
    response.headers.set('x-frame-options', 'DENY');
    return response;
  } catch (error) {
    return fault(logFault(error, pathname));
  }
});

/** React writes style attributes on the server; style elements still need their hash. The framework's own list cannot say so. */
function allowStyleAttributes(headers: Headers): void {
  const policy = headers.get('content-security-policy');
  if (policy !== null)
    headers.set('content-security-policy', `${policy.replace(/;\s*$/, '')}; style-src-attr 'unsafe-inline'`);
}

/** Browsers say where a request comes from; a program that says nothing carries no browser's cookies either. */
function sameOrigin(request: Request, url: URL): boolean {
  if (request.method === 'GET' || request.method === 'HEAD') return true;
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin') return false;
  const origin = request.headers.get('origin');
  if (origin !== null && (!URL.canParse(origin) || new URL(origin).host !== url.host)) return false;
  const type = request.headers.get('content-type') ?? '';
  // Neither type can be sent by a form of another site without the browser asking us first.
  return (
    url.pathname.startsWith('/api/auth/') ||
    type.startsWith('application/json') ||
    type.startsWith('application/octet-stream')
  );
}
