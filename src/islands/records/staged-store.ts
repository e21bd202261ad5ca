import { newShortId } from '../../core/kernel/ids';
import type { GivenReason } from '../../core/record/own-checks';
import type { Staged } from '../../core/record/staged';
import { DeviceStore } from '../kit/device-store';

interface Copy {
  readonly tab: string;
  readonly staged: Staged;
  readonly flying: Flying | null;
  /** Why it is done, of what checks ask about. */
  readonly reasons?: readonly GivenReason[];
}

/** What was sent and not answered; it may have arrived. */
export interface Flying {
  readonly key: string;
  readonly sent: Staged;
  readonly reasons?: readonly GivenReason[];
}

const TAB = 'slate:tab';
/** Long enough for another window to say that an edit is its own. */
const ANSWER_MS = 150;

/**
 * Staged edits of one table on this device, one copy for each window. After a reload a window finds its own;
 * what a window left that is there no more is taken up by the next that opens the table.
 */
export class StagedStore {
  private readonly store: DeviceStore<Copy>;
  private readonly tab: string;
  private readonly channel: BroadcastChannel;
  private readonly alive = new Set<string>();

  constructor(deviceKey: string, table: string) {
    this.store = new DeviceStore(deviceKey, `edits-${table}`);
    this.tab = tabId();
    this.channel = new BroadcastChannel(`slate:edits:${table}`);
    this.channel.addEventListener('message', ({ data }: MessageEvent<{ asks?: string; here?: string }>) => {
      if (data.asks !== undefined && data.asks !== this.tab) this.channel.postMessage({ here: this.tab });
      if (data.here !== undefined) this.alive.add(data.here);
    });
  }

  write(staged: Staged, flying: Flying | null, reasons: readonly GivenReason[]): void {
    if (staged.length === 0 && flying === null) this.store.clear(this.tab);
    else this.store.write(this.tab, { tab: this.tab, staged, flying, reasons });
  }

  async takenUp(): Promise<Omit<Copy, 'tab'> | null> {
    const copies = this.store.read();
    const own = copies.find(({ tab }) => tab === this.tab);
    if (own !== undefined) return own;
    if (copies.length === 0) return null;
    this.channel.postMessage({ asks: this.tab });
    await new Promise((resolve) => setTimeout(resolve, ANSWER_MS));
    const left = copies.find(({ tab }) => !this.alive.has(tab));
    if (left === undefined) return null;
    this.store.clear(left.tab);
    return left;
  }

  close(): void {
    this.channel.close();
  }
}

/** The same until the window is closed. */
function tabId(): string {
  try {
    const known = sessionStorage.getItem(TAB) ?? newShortId();
    sessionStorage.setItem(TAB, known);
    return known;
  } catch {
    return newShortId();
  }
}
