import { cipherOf, FORGOTTEN_MS } from './device-store';
import type { Ready } from './upload';

/** A file that is on its way, under the id it is brought by. */
interface Kept {
  readonly id: string;
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly at: number;
}

/**
 * Files that are on their way to one place of one draft, kept on this device until they have arrived, so that
 * a page that is closed or reloaded meanwhile goes on with them. Encrypted like what was typed
 * (`DeviceStore`). Where a browser keeps nothing, or no more, they are brought all the same.
 */
export class DeviceFiles {
  private readonly start: string;
  private readonly cipher: ReturnType<typeof cipherOf>['cipher'];

  constructor(key: string, draft: string, place: string) {
    const { person, cipher } = cipherOf(key);
    this.start = `${person}:${draft}:${place}:`;
    this.cipher = cipher;
  }

  async write(id: string, { name, bytes }: Ready): Promise<void> {
    try {
      const { set } = await store();
      const sealed = this.cipher.encrypt(new Uint8Array(await bytes.arrayBuffer()));
      const kept: Kept = { id, name, type: bytes.type, bytes: new Uint8Array(sealed), at: Date.now() };
      await set(this.start + id, kept);
    } catch {
      // A full or forbidden store leaves what the page holds.
    }
  }

  async clear(id: string): Promise<void> {
    try {
      await (await store()).del(this.start + id);
    } catch {
      // Nothing was stored where storing is forbidden.
    }
  }

  async read(): Promise<{ readonly id: string; readonly file: Ready }[]> {
    try {
      const { entries, del } = await store();
      const all = await entries<string, Kept>();
      for (const [name, { at }] of all) if (Date.now() - at > FORGOTTEN_MS) await del(name);
      return all
        .filter(([name]) => name.startsWith(this.start))
        .sort(([, a], [, b]) => a.at - b.at)
        .flatMap(([, kept]) => this.opened(kept));
    } catch {
      return [];
    }
  }

  private opened({ id, name, type, bytes }: Kept): { id: string; file: Ready }[] {
    try {
      return [
        { id, file: { name, bytes: new Blob([new Uint8Array(this.cipher.decrypt(bytes))], { type }) } },
      ];
    } catch {
      // What cannot be read is nothing.
      return [];
    }
  }
}

/** Loaded with the first file. */
const store = () => import('idb-keyval');
