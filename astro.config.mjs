import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

/**
 * The widgets carry their few hidden words ("3 options available") in 35 languages. The screens speak English, so the others stay out of the script: 12 kB
 * of the 300 that a form's page loads. A second language of the screens is added here as well.
 */
const englishWords = {
  name: 'english-words',
  enforce: 'pre',
  load: (id) => (/\/intl\/[a-z]+\/(?!en-)[a-z]{2}-[A-Z]{2}\.mjs$/.test(id) ? 'export default {};' : null),
};

export default defineConfig({
  output: 'server',
  // `scripts/serve-http.mjs` is the server, and gives out the files.
  adapter: node({ mode: 'middleware' }),
  integrations: [react()],
  devToolbar: { enabled: false },
  // Our middleware checks the origin of every kind of request, JSON too, and answers with a problem document.
  security: { checkOrigin: false, allowedDomains: [{ hostname: '127.0.0.1' }, { hostname: 'localhost' }] },
  experimental: {
    csp: {
      directives: [
        "default-src 'self'",
        "img-src 'self' data:",
        "font-src 'self'",
        "connect-src 'self'",
        "frame-ancestors 'none'",
        "form-action 'self'",
        "base-uri 'self'",
        "object-src 'none'",
      ],
    },
  },
  vite: { plugins: [tailwindcss(), englishWords], build: { assetsInlineLimit: 0 } },
});
