/**
 * By what this page asks, where that is not a session: somebody outside has come by a link, or follows what
 * they sent. It goes along with each request in headers, and what they ask goes to doors of its own.
 */
let outside: Readonly<Record<string, string>> | null = null;

/** Said in the browser alone: on the server, pages of others are drawn by the same module. */
export function comeFromOutside(by: { readonly link: string } | { readonly visit: string }): void {
  if (typeof window === 'undefined') return;
  outside = 'link' in by ? { 'x-slate-link': by.link } : { 'x-slate-visit': by.visit };
}

/** The sheet they fill, which what they bring belongs to. */
export function fillsSheet(id: string): void {
  if (outside !== null) outside = { ...outside, 'x-slate-draft': id };
}

export const isOutside = (): boolean => outside !== null;

export const saidBesides = (): Readonly<Record<string, string>> => outside ?? {};

export const fileAddress = (id: string): string =>
  outside === null ? `/api/files/${id}` : `/api/open/files/${id}`;

export const lookupAddress = (form: string, question: string): string =>
  outside === null ? `/api/forms/${form}/lookups/${question}` : `/api/open/lookups/${question}`;
