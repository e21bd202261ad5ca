/**
 * By what this page asks, where that is not a session: somebody outside has come by a link, or follows what they sent. It goes along with each request in headers, and what
 * they ask goes to doors of its own.
 */
let outside: Readonly<Record<string, string>> | null = null;

export function comeFromOutside(by: { readonly link: string } | { readonly visit: string }): void {
  outside = 'link' in by ? { 'x-slate-link': by.link } : { 'x-slate-visit': by.visit };
}

export const saidBesides = (): Readonly<Record<string, string>> => outside ?? {};

export const lookupAddress = (form: string, question: string): string =>
  outside === null ? `/api/forms/${form}/lookups/${question}` : `/api/open/lookups/${question}`;
