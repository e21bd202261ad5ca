import type { MiddlewareHandler } from 'astro';
import { defineMiddleware } from 'astro:middleware';
import { secured } from './http/headers';
import { awayPage } from './http/away-page';
import { problem, thrown } from './http/problem';
import { refusedBy } from './use-cases/workspace/log-fault';
import { API } from './core/api/open-api';
import { languageAt } from './use-cases/outside/come-in';
import { comingFrom, showingTo, whileLooking, whoIsSignedIn } from './use-cases/people/who-asks';
import { formatsOfHouse } from './use-cases/workspace/read-workspace';

/** Addresses for those who are not signed in. */
const OPEN = new Set([
  '/sign-in',
  '/welcome',
  '/forgotten',
  '/sign-in/code',
  '/sign-in/with',
  '/sign-in/back',
  '/api/sign-in',
  '/api/sign-in/code',
  '/api/sign-in/passkey',
  '/api/sign-out',
  '/api/welcome',
  '/api/welcome/take',
  '/api/welcome/forgotten',
  '/api/health',
]);

/** Addresses for people outside, who come by a link to one form: each says by itself who comes in (ADR 37). */
const isOutside = (pathname: string): boolean =>
  pathname.startsWith('/open/') || pathname === '/followed' || pathname.startsWith('/api/open/');
/** Pictures in the texts of forms, which may be open to people outside. */
const isPicture = (pathname: string): boolean => pathname.startsWith('/api/pictures/');

/** What whoever looks as somebody else does for themselves. */
const ENDS_LOOKING = new Set(['/api/look-back', '/api/sign-out']);

/** Who asks, and whether the request came from our own pages. A foreign page must not be able to act for a signed-in person. */
export const onRequest = defineMiddleware((context, next) =>
  comingFrom(context.request.headers.get('x-slate-address') ?? '', () => answered(context, next)),
);

const answered: MiddlewareHandler = async (context, next) => {
  const { pathname } = context.url;
  const isApi = pathname.startsWith('/api/');
  context.locals.lookedBy = null;
  context.locals.framedBy = [];
  try {
    // The image service of the framework: nothing of ours asks for it, and it faults on what it does not expect.
    if (pathname.startsWith('/_image')) return secured(problem({ kind: 'not-found', what: 'page' }));
    if (pathname.includes('%00') || context.url.search.includes('%00'))
      return secured(problem({ kind: 'not-found', what: 'page' }));
    // A form that is sent before the page answers. Signing in is done all the same; of any other its secrets
    // stay out of the address, and the page is there again.
    if (!isApi && context.request.method === 'POST') {
      context.locals.person = null;
      if (pathname === '/sign-in' && isOwnForm(context.request, context.url)) return secured(await next());
      return secured(context.redirect(pathname.replace(/^[\\/]+/, '/') + context.url.search, 303));
    }
    // Programs come with a token, and with nothing of a browser's: no session is looked at there.
    if (pathname.startsWith(`${API}/`)) {
      context.locals.person = null;
      return secured(await next());
    }
    if (!sameOrigin(context.request, context.url))
      return secured(problem({ kind: 'forbidden', why: 'origin' }));
    if (isOutside(pathname)) {
      context.locals.person = null;
      const formats = await formatsOfHouse(await languageAt(context.url));
      return secured(await showingTo(formats, next), context.locals.framedBy);
    }
    const found = pathname === '/api/health' ? null : await whoIsSignedIn(context.request.headers);
    context.locals.person = found?.person ?? null;
    context.locals.lookedBy = found?.lookedBy ?? null;
    const isOpen = OPEN.has(pathname) || pathname.startsWith('/calendar/') || isPicture(pathname);
    if (context.locals.person === null && !isOpen) {
      return secured(
        isApi
          ? problem({ kind: 'forbidden', why: 'sign-in' })
          : context.redirect(`/sign-in?to=${encodeURIComponent(pathname + context.url.search)}`),
      );
    }
    const looks = context.locals.lookedBy !== null && !ENDS_LOOKING.has(pathname);
    if (looks && context.request.method !== 'GET' && context.request.method !== 'HEAD')
      return secured(problem({ kind: 'forbidden', why: 'looking' }));
    const formats = found?.formats ?? (await formatsOfHouse());
    return secured(await showingTo(formats, looks ? () => whileLooking(next) : next));
  } catch (error) {
    const refusal = refusedBy(error);
    return secured(!isApi && refusal?.kind === 'unavailable' ? awayPage(refusal) : thrown(error, pathname));
  }
};

/** Whether a form was sent by a page of ours: browsers always say so of one. */
function isOwnForm(request: Request, url: URL): boolean {
  const origin = request.headers.get('origin') ?? '';
  const site = request.headers.get('sec-fetch-site') ?? 'same-origin';
  return (
    site === 'same-origin' &&
    URL.canParse(origin) &&
    new URL(origin).host === url.host &&
    (request.headers.get('content-type') ?? '').startsWith('application/x-www-form-urlencoded')
  );
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
  return type.startsWith('application/json') || type.startsWith('application/octet-stream');
}
