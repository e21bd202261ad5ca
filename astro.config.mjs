import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

/**
 * The widgets carry their few hidden words ("3 options available") in 35 languages. Those the screens do not speak stay out of the script: 12 kB
 * of the 300 that a form's page loads.
 */
const spokenWords = {
  name: 'spoken-words',
  enforce: 'pre',
  load: (id) =>
    /\/intl\/[a-z]+\/(?!en-US|de-DE)[a-z]{2}-[A-Z]{2}\.mjs$/.test(id) ? 'export default {};' : null,
};

/** How days and numbers are written here is known before any island wakes. */
const formats = {
  name: 'formats',
  hooks: {
    'astro:config:setup': ({ injectScript }) =>
      injectScript('before-hydration', "import '/src/islands/kit/here.ts';"),
  },
};

export default defineConfig({
  output: 'server',
  // `scripts/serve-http.mjs` is the server, and gives out the files.
  adapter: node({ mode: 'middleware' }),
  integrations: [react(), formats],
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
  vite: { plugins: [tailwindcss(), spokenWords], build: { assetsInlineLimit: 0 } },
});
