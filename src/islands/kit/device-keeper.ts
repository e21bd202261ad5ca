import type { KeeperPorts, Keeping, Unsent } from './keeper';

/**
 * Keeps one edited value on this device and nowhere else, until it is sent as a whole: for whoever has no
 * account, of whom nothing is kept that they have not sent. It does what `Keeper` does, with nothing to wait
 * for.
 */
export class DeviceKeeper<T> {
  constructor(
    readonly version: number,
    private readonly ports: Pick<KeeperPorts<T>, 'told' | 'store' | 'now'>,
  ) {}

  edited(value: T): void {
    const unsent: Unsent<T> = { value, version: this.version, flying: null };
    this.ports.store(unsent);
    const kept: Keeping = { t: 'kept', at: this.ports.now() };
    this.ports.told(kept);
  }

  flush(): Promise<boolean> {
    return Promise.resolve(true);
  }

  abandon(): void {
    this.ports.store(null);
  }
}
