import { isList, type Value } from '../../expression/value';

/**
 * Several texts as PostgreSQL writes an array of them, `{seed,"cut stem"}`: how they are stored, compared and
 * sent. A text is quoted where it is empty, is the word null, or has spaces, commas, braces, quotes or
 * backslashes. None at all is empty, not a list of nothing.
 */
export const storedList = (list: readonly Value[]): string | null =>
  list.length === 0 ? null : `{${list.map((one) => quoted(typeof one === 'string' ? one : '')).join(',')}}`;

const quoted = (text: string): string =>
  text === '' || /^null$/i.test(text) || SPECIAL.test(text)
    ? `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"')}"`
    : text;

/** What PostgreSQL takes for a space, and no other. */
const SPECIAL = /[ \t\n\r\v\f{},"\\]/;
const MEMBER = /^(?:"((?:[^"\\]|\\.)*)"|([^ \t\n\r\v\f{},"\\]+))/s;

/** The texts of such an array; null for what is none. */
export function listStored(text: string): string[] | null {
  if (!text.startsWith('{') || !text.endsWith('}')) return null;
  const found: string[] = [];
  let at = 1;
  while (at < text.length - 1) {
    const [whole, inQuotes, plain] = MEMBER.exec(text.slice(at, -1)) ?? [];
    if (whole === undefined) return null;
    found.push(plain ?? (inQuotes ?? '').replace(/\\(.)/gs, '$1'));
    at += whole.length;
    if (at < text.length - 1 && text[at++] !== ',') return null;
  }
  return text.endsWith(',}') ? null : found;
}

/** The same as a list of JSON, as open formats have it, and back; null where it is none of texts. */
export const listAsJson = (stored: string): string => JSON.stringify(listStored(stored) ?? []);
export function listFromJson(json: string): string | null {
  try {
    const list: unknown = JSON.parse(json);
    return Array.isArray(list) && list.every((one) => typeof one === 'string') ? storedList(list) : null;
  } catch {
    return null;
  }
}

/** A stored list of something else than texts is a fault of ours. */
export const textsOf = (value: Value): string[] =>
  isList(value) ? value.filter((one): one is string => typeof one === 'string') : [];
