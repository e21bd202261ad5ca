import { fail, ok, type Result } from '../kernel/result';
import { issue, type Issue } from '../kernel/issue';
import { limits } from '../limits';

/** While its pieces come, and once it is there and has been looked at. */
export type FileState = 'coming' | 'whole';

/** A file as those who may see it know it; `type` is what its content says. */
export interface FileFacts {
  readonly id: string;
  readonly name: string;
  readonly type: string;
  /** Bytes. */
  readonly size: number;
  readonly hasThumb: boolean;
}

/** What may be brought, by the type that its content shows. Nothing of it runs in a browser. */
const KINDS: ReadonlyMap<string, 'photo' | 'file'> = new Map([
  ['image/jpeg', 'photo'],
  ['image/png', 'photo'],
  ['image/webp', 'photo'],
  ['image/gif', 'photo'],
  ['application/pdf', 'file'],
  ['application/vnd.openxmlformats-officedocument.wordprocessingml.document', 'file'],
  ['application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', 'file'],
  ['application/vnd.oasis.opendocument.text', 'file'],
  ['application/vnd.oasis.opendocument.spreadsheet', 'file'],
  ['text/plain', 'file'],
  ['text/csv', 'file'],
]);

export const isPhoto = (type: string): boolean => KINDS.get(type) === 'photo';

/** What `accept` of a browser's file dialog is told. */
export const acceptOf = (what: 'photos' | 'files'): string =>
  [...KINDS].flatMap(([type, kind]) => (what === 'files' || kind === 'photo' ? [type] : [])).join(',');

/** Whether a file of this content may answer a question; the issue says what it is not. */
export function allowedType(type: string, what: 'photos' | 'files'): Result<null, Issue> {
  const kind = KINDS.get(type);
  if (what === 'photos' && kind !== 'photo') return fail(issue('not-a-photo', []));
  return kind === undefined ? fail(issue('file-type', [])) : ok(null);
}

/** Names as they are kept: no path, no control characters, no more than a label may have. */
export function fileName(given: string): string {
  const last = given.split(/[\\/]/).at(-1) ?? '';
  // oxlint-disable-next-line no-control-regex
  const plain = last.replace(/[\u0000-\u001f\u007f\u202a-\u202e\u2066-\u2069]/g, '').trim();
  return [...(plain === '' ? 'file' : plain)].slice(0, limits.label).join('');
}
