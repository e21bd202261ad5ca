import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { bytesToUtf8, managedNonce, utf8ToBytes } from '@noble/ciphers/utils.js';

const ALL = 'slate:unsent:';
/** A write that is not felt while typing; and how often there is one that would be. */
const QUICK_MS = 3;
const WRITE_EVERY_MS = 250;
/** What nobody came back for. */
export const FORGOTTEN_MS = 60 * 86_400_000;

/**
 * What one person has typed in one place and not sent, on this device. It is encrypted with a key that the
 * server gives to that person alone while they are signed in: on a shared browser, whoever signs in next can
 * neither read it nor see whose it is. The cipher works at once and without a secure address, so that what is
 * written is whole when the page closes in the same moment.
 */
export class DeviceStore<T> {
  private readonly start: string;
  private readonly cipher: Cipher;
  private readonly waiting = new Map<string, T>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private keeps = true;
  /** Milliseconds that the last write took. */
  private cost = 0;

  constructor(key: string, place: string) {
    const { person, cipher } = cipherOf(key);
    this.start = `${ALL}${person}:${place}:`;
    this.cipher = cipher;
  }

  /** Whether what was written last is there: a store may be full or forbidden. */
  get isKeeping(): boolean {
    return this.keeps;
  }

  /** Written at once; where that takes long, because much was typed, at most so often, and when the page is left. */
  write(id: string, value: T): void {
    this.waiting.set(id, value);
    if (this.cost < QUICK_MS) return this.settle();
    if (this.timer !== null) return;
    this.timer = setTimeout(this.settle, WRITE_EVERY_MS);
    window.addEventListener('pagehide', this.settle);
  }

  private readonly settle = (): void => {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    window.removeEventListener('pagehide', this.settle);
    const began = performance.now();
    for (const [id, value] of this.waiting) this.put(id, value);
    this.waiting.clear();
    this.cost = performance.now() - began;
  };

  private put(id: string, value: T): void {
    const text = JSON.stringify({ value, at: Date.now() } satisfies Stored<T>);
    try {
      localStorage.setItem(this.start + id, base64(this.cipher.encrypt(utf8ToBytes(text))));
      this.keeps = true;
    } catch {
      // A full or forbidden store leaves what the server has; whoever asks is told.
      this.keeps = false;
    }
  }

  clear(id: string): void {
    this.waiting.delete(id);
    try {
      localStorage.removeItem(this.start + id);
    } catch {
      // Nothing was stored where storing is forbidden.
    }
  }

  /** Everything that is kept for this place, under ids that begin like this. */
  read(id = ''): T[] {
    this.settle();
    return namesIn().flatMap((name) => {
      if (isOfEarlierEdition(name)) localStorage.removeItem(name);
      if (!name.startsWith(this.start + id)) return [];
      const stored = this.opened(localStorage.getItem(name) ?? '');
      if (stored !== null && Date.now() - stored.at <= FORGOTTEN_MS) return [stored.value];
      localStorage.removeItem(name);
      return [];
    });
  }

  private opened(text: string): Stored<T> | null {
    try {
      const bytes = Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
      return JSON.parse(bytesToUtf8(this.cipher.decrypt(bytes))) as Stored<T>;
    } catch {
      // What cannot be read is nothing.
      return null;
    }
  }
}

type Cipher = ReturnType<ReturnType<typeof managedNonce<typeof xchacha20poly1305>>>;

/** What a person's key on a device is made of: half of what is given is the key, the other half only tells people apart. */
export function cipherOf(key: string): { readonly person: string; readonly cipher: Cipher } {
  const bytes = Uint8Array.from(atob(key), (one) => one.charCodeAt(0));
  return {
    person: hex(bytes.subarray(32, 40)),
    cipher: managedNonce(xchacha20poly1305)(bytes.subarray(0, 32)),
  };
}

interface Stored<T> {
  readonly value: T;
  readonly at: number;
}

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
