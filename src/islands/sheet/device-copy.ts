import type { Answers } from '../../core/form/answers';

/** What was typed and has not reached the server yet, by form and submission. */
export interface DeviceCopy {
  readonly id: string;
  readonly version: number;
  readonly answers: Answers;
}

const keyOf = (formKey: string, id: string): string => `slate:unsent:${formKey}:${id}`;

export function writeCopy(formKey: string, id: string, copy: DeviceCopy): void {
  try {
    localStorage.setItem(keyOf(formKey, id), JSON.stringify(copy));
  } catch {
    // A full or forbidden store leaves the server's copy, which follows within a second.
  }
}

export function clearCopy(formKey: string, id: string): void {
  try {
    localStorage.removeItem(keyOf(formKey, id));
  } catch {
    // Nothing was stored where storing is forbidden.
  }
}

/** The copy for a submission; or, for a new sheet, any copy of this form that never reached the server. */
export function readCopy(formKey: string, id: string | null): DeviceCopy | null {
  try {
    for (let i = 0; i < localStorage.length; i++) {
      const key = localStorage.key(i) ?? '';
      if (!key.startsWith(keyOf(formKey, id ?? ''))) continue;
      const copy = JSON.parse(localStorage.getItem(key) ?? 'null') as DeviceCopy | null;
      if (copy !== null && (id !== null || copy.version === 0)) return copy;
    }
  } catch {
    // An unreadable copy is no copy.
  }
  return null;
}
