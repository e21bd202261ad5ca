import type { Problem } from '../../contract/answers-from-server';
import type { Result } from '../../core/kernel/result';

/** Where what somebody edits stands: nothing edited yet, not yet on the server, there, out of reach, or refused by it. */
export type Keeping =
  | { readonly t: 'fresh' }
  | { readonly t: 'typing' }
  | { readonly t: 'kept'; readonly at: string | null }
  | { readonly t: 'away' }
  | { readonly t: 'refused'; readonly words: string };

/** What has not reached the server, or is not known to have: enough to go on after the page was closed in any moment. */
export interface Unsent<T> {
  readonly value: T;
  /** The version on the server that it was drawn on. */
  readonly version: number;
  /** What was sent on that version and has not been answered; it may have arrived. */
  readonly flying: T | null;
}

export interface KeeperPorts<T> {
  /** Sends a value drawn on a version; gives the version it has then. Throws when there was no answer. `leaving`: the page is closing. */
  readonly send: (
    version: number,
    value: T,
    leaving: boolean,
  ) => Promise<Result<{ version: number }, Problem>>;
  /** Does something after so many milliseconds; gives how to call it off. */
  readonly after: (ms: number, work: () => void) => () => void;
  readonly told: (keeping: Keeping) => void;
  /** Keeps what is unsent where a reload finds it; null when nothing is. */
  readonly store: (unsent: Unsent<T> | null) => void;
  readonly now: () => string;
}

export interface Beginning<T> {
  readonly value: T;
  readonly version: number;
  readonly keeping: Keeping;
  /** Taken up from a page that was closed before all of it was answered. */
  readonly unsent?: Unsent<T> | null;
  /** Milliseconds after the last edit. */
  readonly keepAfter: number;
}

const TRY_AGAIN_MS = 4_000;

/** The clock of a page; tests have one of their own. */
export const pageClock: Pick<KeeperPorts<unknown>, 'after' | 'now'> = {
  after: (ms, work) => {
    const timer = setTimeout(work, ms);
    return () => clearTimeout(timer);
  },
  now: () => new Date().toISOString(),
};

/**
 * Keeps one edited value on the server, one request at a time; each names the version it was drawn on.
 *
 * A request that got no answer may have arrived. So the very same is sent again before anything newer: the
 * server knows a repeat, while a newer value on the old version would look like somebody else's. `flush`
 * gives true only when the server has answered for the last edit there is.
 */
export class Keeper<T> {
  private value: T;
  private onServer: number;
  /** Edits counted; those up to `kept` are on the server. */
  private revision = 0;
  private kept = 0;
  private flying: { readonly value: T; readonly version: number; readonly revision: number } | null = null;
  private pass: Promise<boolean> | null = null;
  private callOff: (() => void) | null = null;
  private keeping: Keeping;

  constructor(
    private readonly begun: Beginning<T>,
    private readonly ports: KeeperPorts<T>,
  ) {
    const { value, version, keeping, unsent = null } = begun;
    [this.value, this.onServer, this.keeping] = [value, version, keeping];
    if (unsent === null) return;
    [this.value, this.onServer, this.revision] = [unsent.value, unsent.version, 1];
    if (unsent.flying !== null) this.flying = { value: unsent.flying, version: unsent.version, revision: 0 };
  }

  /** Goes on with what an earlier page left unsent. */
  begin(): void {
    if (this.revision === this.kept) return;
    this.tell({ t: 'typing' });
    this.soon(0);
  }

  get version(): number {
    return this.onServer;
  }

  /** Whether there is anything that the server is not known to have. */
  get isBehind(): boolean {
    return this.revision !== this.kept;
  }

  /** Somebody else, such as a job of ours, moved what is kept on without changing it. */
  movedTo(version: number): void {
    this.onServer = Math.max(this.onServer, version);
  }

  edited(value: T): void {
    this.value = value;
    this.revision++;
    this.store();
    if (this.keeping.t !== 'refused') this.tell({ t: 'typing' });
    this.soon(this.begun.keepAfter);
  }

  /** Sends what is not sent yet, and waits until the server has all of it. */
  async flush(leaving = false): Promise<boolean> {
    while (this.isBehind) {
      const one = (this.pass ??= this.sent(leaving).finally(() => (this.pass = null)));
      if (!(await one)) return false;
    }
    return true;
  }

  /** Nothing is sent any more; for a page that is gone. */
  stop(): void {
    this.callOff?.();
    this.callOff = null;
  }

  /** What is not sent is not wanted any more. */
  abandon(): void {
    this.stop();
    this.kept = this.revision;
    this.store();
  }

  private async sent(leaving: boolean): Promise<boolean> {
    this.stop();
    const one = (this.flying ??= { value: this.value, version: this.onServer, revision: this.revision });
    this.store();
    let result;
    try {
      result = await this.ports.send(one.version, one.value, leaving);
    } catch {
      this.tell({ t: 'away' });
      this.soon(TRY_AGAIN_MS);
      return false;
    }
    this.flying = null;
    if (!result.ok) {
      this.store();
      this.tell({ t: 'refused', words: problemWords(result.error) });
      return false;
    }
    this.onServer = Math.max(this.onServer, result.value.version);
    this.kept = one.revision;
    this.store();
    if (this.isBehind) this.soon(this.begun.keepAfter);
    else this.tell({ t: 'kept', at: this.ports.now() });
    return true;
  }

  private store(): void {
    const { value, onServer: version, flying } = this;
    this.ports.store(
      this.isBehind ? { value, version: flying?.version ?? version, flying: flying?.value ?? null } : null,
    );
  }

  private soon(ms: number): void {
    this.stop();
    this.callOff = this.ports.after(ms, () => void this.flush());
  }

  private tell(keeping: Keeping): void {
    this.keeping = keeping;
    this.ports.told(keeping);
  }
}

const problemWords = ({ title, issues = [] }: Problem): string =>
  [
    title,
    ...issues
      .slice(0, 2)
      .map(({ path, sentence }) => (path.length === 0 ? sentence : `${path.join('.')}: ${sentence}`)),
  ].join('. ');
