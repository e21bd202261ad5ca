import { createHash } from 'node:crypto';
import type { Refusal } from '../core/kernel/refusal';
import { refusalSentence } from '../core/wording/refusal-sentence';

/** Asks whether the database is back, and loads the page again when it is. */
const SCRIPT = `setInterval(async () => { try { const r = await fetch('/api/health'); if (r.ok && (await r.json()).ready) location.reload(); } catch {} }, 2000);`;
const STYLE = `body{margin:0;background:#e9eff1;color:#1b2a31;font:15px/1.5 ui-sans-serif,system-ui,sans-serif}header{display:flex;gap:10px;align-items:center;background:#1f2f37;color:#fff;padding:10px 24px;font:600 17px ui-serif,serif}main{max-width:36rem;margin:64px auto;background:#fff;border:1px solid #d9e2e5;border-radius:8px;padding:24px}h1{font:600 24px/1.3 ui-serif,serif;margin:0 0 8px}p{margin:8px 0 0}`;

/**
 * The page that is shown while the database is away: in our look, made of nothing that needs it, and gone by itself when it is back.
 * What was typed elsewhere is on its device and is sent on from there.
 */
export function awayPage(refusal: Extract<Refusal, { kind: 'unavailable' }>): Response {
  // A page that took too long would take as long again; only what was away is waited for.
  const comesBack = refusal.why === 'database' || refusal.why === 'unsure';
  const title = comesBack ? 'Back in a moment' : 'This page cannot be shown just now';
  const policy = `default-src 'none'; connect-src 'self'; img-src 'self'; script-src '${hash(SCRIPT)}'; style-src '${hash(STYLE)}'; frame-ancestors 'none'; base-uri 'none'`;
  return new Response(
    `<!doctype html><html lang="en-GB"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${title} · Tidy Slate</title><link rel="icon" href="/slate.svg" type="image/svg+xml"><style>${STYLE}</style></head><body><header><img src="/slate.svg" alt="" width="22" height="17"> Tidy Slate</header><main><h1>${title}</h1><p>${refusalSentence(refusal)}.</p>${comesBack ? `<p>This page comes back by itself, and what you typed in a form is on this device until then.</p></main><script>${SCRIPT}</script>` : '</main>'}</body></html>`,
    {
      status: 503,
      headers: {
        'content-type': 'text/html; charset=utf-8',
        'retry-after': String(refusal.retryAfter),
        'cache-control': 'no-store',
        'content-security-policy': policy,
      },
    },
  );
}

const hash = (text: string): string => `sha256-${createHash('sha256').update(text).digest('base64')}`;
