import { pack, unpack, type Packed } from '../../core/expression/transfer';
import type { RecordValue } from '../../core/expression/value';
import type { Answers } from '../../core/form/answers';
import type { Records } from '../../core/form/cells';
import { DeviceStore } from '../kit/device-store';
import type { Unsent } from '../kit/keeper';

/** What is kept of a sheet that is being filled: the answers, and the record they change with how that was. */
export interface Draft {
  readonly answers: Answers;
  readonly of?: { readonly record: string; readonly base: Answers };
}

/** What was typed and has not reached the server yet, with the records its lookups picked: those the server does not know to send. */
export interface DeviceCopy {
  readonly id: string;
  readonly unsent: Unsent<Draft>;
  readonly records: Records;
}

interface Stored {
  readonly id: string;
  readonly unsent: Unsent<Draft>;
  readonly records: readonly (readonly [string, Packed])[];
}

/** Copies on this device of what one person typed in one form. */
export class DeviceCopies {
  private readonly store: DeviceStore<Stored>;

  constructor(key: string, form: string) {
    this.store = new DeviceStore(key, form);
  }

  write({ id, unsent, records }: DeviceCopy): void {
    const packed = [...records].map(([key, record]) => [key, pack(record)] as const);
    this.store.write(id, { id, unsent, records: packed });
  }

  get isKeeping(): boolean {
    return this.store.isKeeping;
  }

  clear(id: string): void {
    this.store.clear(id);
  }

  /** The copy for a submission; or, for a new sheet, any copy of this form that never reached the server. */
  read(id: string | null): DeviceCopy | null {
    const found = this.store.read(id ?? '').find(({ unsent }) => id !== null || unsent.version === 0);
    return found === undefined ? null : asCopy(found);
  }
}

const asCopy = ({ id, unsent, records }: Stored): DeviceCopy => ({
  id,
  unsent: {
    ...unsent,
    value: asDraft(unsent.value),
    flying: unsent.flying === null ? null : asDraft(unsent.flying),
  },
  records: new Map(records.map(([key, packed]) => [key, unpack(packed) as RecordValue])),
});

/** What an earlier edition left on a device is answers alone. */
const asDraft = (kept: Draft | Answers): Draft => ('answers' in kept ? kept : { answers: kept });
