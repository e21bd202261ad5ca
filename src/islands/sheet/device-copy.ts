import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { bytesToUtf8, managedNonce, utf8ToBytes } from '@noble/ciphers/utils.js';
import { pack, unpack, type Packed } from '../../core/expression/transfer';
import type { RecordValue } from '../../core/expression/value';
import type { Answers } from '../../core/form/answers';
import type { Records } from '../../core/form/cells';
import type { Unsent } from '../kit/keeper';

/** What was typed and has not reached the server yet, with the records its lookups picked: those the server does not know to send. */
export interface DeviceCopy {
  readonly id: string;
  readonly unsent: Unsent<Answers>;
  readonly records: Records;
}

interface Stored {
  readonly id: string;
  readonly unsent: Unsent<Answers>;
  readonly records: readonly (readonly [string, Packed])[];
  readonly at: number;
}

const ALL = 'slate:unsent:';
/** A copy that nobody came back for. */
const FORGOTTEN_MS = 60 * 86_400_000;

/**
 * Copies on this device of what one person typed in one form. They are encrypted with a key that the server gives to that person alone while they
 * are signed in: on a shared browser, whoever signs in next can neither read them nor see whose they are. The cipher works at once and without a
 * secure address, so that a copy is whole when the page closes in the same moment.
 */
export class DeviceCopies {
  private readonly start: string;
  private readonly cipher: ReturnType<ReturnType<typeof managedNonce<typeof xchacha20poly1305>>>;

  constructor(key: string, form: string) {
    const bytes = Uint8Array.from(atob(key), (one) => one.charCodeAt(0));
    // Half of what is given is the key, the other half only tells people apart.
    this.start = `${ALL}${hex(bytes.subarray(32, 40))}:${form}:`;
    this.cipher = managedNonce(xchacha20poly1305)(bytes.subarray(0, 32));
  }

  write(copy: DeviceCopy): void {
    const stored: Stored = {
      id: copy.id,
      unsent: copy.unsent,
      records: [...copy.records].map(([key, record]) => [key, pack(record)]),
      at: Date.now(),
    };
    try {
      localStorage.setItem(
        this.start + copy.id,
        base64(this.cipher.encrypt(utf8ToBytes(JSON.stringify(stored)))),
      );
    } catch {
      // A full or forbidden store leaves the server's copy, which follows within a second.
    }
  }

  clear(id: string): void {
    try {
      localStorage.removeItem(this.start + id);
    } catch {
      // Nothing was stored where storing is forbidden.
    }
  }

  /** The copy for a submission; or, for a new sheet, any copy of this form that never reached the server. */
  read(id: string | null): DeviceCopy | null {
    for (const name of namesIn()) {
      if (isOfEarlierEdition(name)) localStorage.removeItem(name);
      if (!name.startsWith(this.start + (id ?? ''))) continue;
      const stored = this.opened(localStorage.getItem(name) ?? '');
      if (stored === null || Date.now() - stored.at > FORGOTTEN_MS) localStorage.removeItem(name);
      else if (id !== null || stored.unsent.version === 0) return asCopy(stored);
    }
    return null;
  }

  private opened(text: string): Stored | null {
    try {
      const bytes = Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
      return JSON.parse(bytesToUtf8(this.cipher.decrypt(bytes))) as Stored;
    } catch {
      // An unreadable copy is no copy.
      return null;
    }
  }
}

const asCopy = ({ id, unsent, records }: Stored): DeviceCopy => ({
  id,
  unsent,
  records: new Map(records.map(([key, packed]) => [key, unpack(packed) as RecordValue])),
});

function namesIn(): string[] {
  try {
    return Object.keys(localStorage).filter((name) => name.startsWith(ALL));
  } catch {
    return [];
  }
}

/** Before copies were encrypted, they began with the key of the form, readable by anybody. */
const isOfEarlierEdition = (name: string): boolean => !/^slate:unsent:[0-9a-f]{16}:/.test(name);

const hex = (bytes: Uint8Array): string =>
  [...bytes].map((one) => one.toString(16).padStart(2, '0')).join('');

function base64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 8_192) text += String.fromCharCode(...bytes.subarray(i, i + 8_192));
  return btoa(text);
}
