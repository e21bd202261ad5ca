/** Whose times of day are shown (IANA), and how days and numbers are written (BCP 47). */
export interface Formats {
  readonly zone: string;
  readonly locale: string;
}

let said: Formats | null = null;

/** On the server, the page says it before its islands are drawn: one workspace, one way for everybody. */
export function showWith(formats: Formats): void {
  said = formats;
}

/** In the browser, the first element of the page carries it. */
export function formatsHere(): Formats {
  if (said !== null) return said;
  const { lang = '', dataset = {} } = typeof document === 'undefined' ? {} : document.documentElement;
  const formats = { zone: dataset['zone'] ?? 'UTC', locale: lang === '' ? 'en-GB' : lang };
  if (typeof document !== 'undefined') said = formats;
  return formats;
}
