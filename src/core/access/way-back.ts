/**
 * Where to go after signing in: a path of our own, or Home. Browsers drop tabs and line breaks from an
 * address and take `\\` for `/`, so a text that looks like a path can lead elsewhere; it is read as they read
 * it, and only the path is kept.
 */
export function wayBack(wanted: string | null, origin: string): string {
  if (wanted === null || !wanted.startsWith('/') || !URL.canParse(wanted, origin)) return '/';
  const to = new URL(wanted, origin);
  return to.origin === new URL(origin).origin
    ? `${to.pathname.replace(/^\/+/, '/')}${to.search}${to.hash}`
    : '/';
}
