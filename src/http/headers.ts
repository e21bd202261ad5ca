/** What every answer says to the browser, a refusal and a missing page too. */
const always: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(), geolocation=(), microphone=(), payment=(), usb=(), browsing-topics=()',
};

/** For an answer that is no page of ours: nothing may be loaded or run. */
const NOTHING = "default-src 'none'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'";
const HALF_A_YEAR = 15_552_000;

/** `framedBy`: the sites whose pages may show this page within them. */
export function secured(response: Response, framedBy: readonly string[] = []): Response {
  const { headers } = response;
  if (!headers.has('cache-control')) headers.set('cache-control', 'no-store');
  for (const [name, value] of Object.entries(always)) headers.set(name, value);
  // The development server writes pages without a policy, and its own scripts into them; it listens on loopback only.
  if (!import.meta.env.DEV)
    headers.set(
      'content-security-policy',
      framed(policyOf(headers.get('content-security-policy')), framedBy),
    );
  if (framedBy.length > 0) headers.delete('x-frame-options');
  // Only a workspace behind TLS may say so: a browser that believed it of a plain address could not come back.
  if ((process.env['SLATE_ORIGIN'] ?? '').startsWith('https:'))
    headers.set('strict-transport-security', `max-age=${HALF_A_YEAR}`);
  return response;
}

const framed = (policy: string, by: readonly string[]): string =>
  by.length === 0 ? policy : policy.replace("frame-ancestors 'none'", `frame-ancestors ${by.join(' ')}`);

/** React writes style attributes on the server; style elements still need their hash. The framework's own list cannot say so. */
function policyOf(given: string | null): string {
  if (given === null) return NOTHING;
  return given.includes('style-src-attr') || given.startsWith("default-src 'none'")
    ? given
    : `${given.replace(/;\s*$/, '')}; style-src-attr 'unsafe-inline'`;
}
