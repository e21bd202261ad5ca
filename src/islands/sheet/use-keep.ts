import { useCallback, useEffect, useRef, useState } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import type { Records } from '../../core/form/cells';
import { call } from '../kit/call';
import { DeviceKeeper } from '../kit/device-keeper';
import { Keeper, pageClock, type Keeping, type Unsent } from '../kit/keeper';
import { newUuid } from '../../core/kernel/ids';
import { takenUp } from '../kit/taken-up';
import { fillsSheet } from '../kit/way-in';
import { justKept, keptBefore } from './just-kept';
import { DeviceCopies, type Draft } from './device-copy';

/** After the last key press; long enough not to save every letter, short enough that little is ever unsaved. */
const KEEP_AFTER_MS = 700;
/** A request that takes longer is taken for lost, and sent again. */
const ANSWER_MS = 20_000;

/** What the page takes up from the device: a draft, and the records its answers pick. */
export interface FromDevice {
  readonly draft: Draft;
  readonly records: Records;
}

interface Sheets {
  /** Shows what was typed on this device and not sent. */
  readonly show: (found: FromDevice) => void;
  /** The records that lookups have picked so far. */
  readonly records: () => Records;
}

/**
 * The draft keeps itself. Every change is written on the device at once and to the server soon after; without
 * a connection it stays on the device and is tried again, also after the page was closed in any moment.
 * `flush` waits until the server has it all.
 */
export function useKeep(data: SheetData, { show, records }: Sheets) {
  const fresh: Keeping =
    data.submission === null ? { t: 'fresh' } : { t: 'kept', at: data.submission.updatedAt };
  const [keeping, setKeeping] = useState<Keeping>(fresh);
  const [onDevice, setOnDevice] = useState(true);
  const [id, setId] = useState(data.submission?.id ?? '');
  const [both, setBoth] = useState<FromDevice | null>(null);
  const keeper = useRef<Pick<Keeper<Draft>, 'edited' | 'flush' | 'abandon' | 'version'> | null>(null);
  const latest = useRef({ show, records });
  useEffect(() => {
    latest.current = { show, records };
  }, [show, records]);

  // Ids and device copies exist only in the browser, so the server's first picture is drawn without them.
  useEffect(() => {
    // A rehearsal leaves nothing behind, here as little as on the server.
    if (data.rehearsal === true) return;
    const isNew = data.submission === null && data.record === null;
    const before = isNew && data.outside !== true ? keptBefore(data.formKey) : null;
    if (before !== null) return location.replace(`/submissions/${before}`);
    const copies = copiesOf(data);
    const server = { value: draftOnServer(data), version: data.submission?.version ?? 0 };
    const copy = copies.read(data.submission?.id ?? null);
    const own = data.submission?.id ?? copy?.id ?? newUuid();
    const up = takenUp(copy?.unsent ?? null, server);
    const found = copy === null ? null : { draft: copy.unsent.value, records: copy.records };
    // Before anything that was brought for it is asked about.
    if (data.outside === true) fillsSheet(own);
    setId(own);
    if (up.t === 'server') copies.clear(own);
    if (up.t === 'unsent' && found !== null) latest.current.show(found);
    setBoth(up.t === 'both' ? found : null);
    const store = (unsent: Unsent<Draft> | null): void => {
      if (unsent !== null) return copies.write({ id: own, unsent, records: latest.current.records() });
      if (isNew && data.outside !== true) justKept(data.formKey, own);
      copies.clear(own);
    };
    const told = (next: Keeping): void => {
      setKeeping(next);
      setOnDevice(copies.isKeeping);
    };
    if (data.outside === true) {
      if (up.t === 'unsent') told({ t: 'kept', at: null });
      keeper.current = new DeviceKeeper<Draft>(server.version, { told, store, now: pageClock.now });
      return;
    }
    const begun = new Keeper<Draft>(
      { ...server, keeping: fresh, unsent: up.t === 'unsent' ? up.unsent : null, keepAfter: KEEP_AFTER_MS },
      {
        send: (version, draft, leaving) =>
          call<{ version: number }>(
            'PUT',
            `/api/submissions/${own}`,
            { form: data.formId, version, ...draft },
            { keepalive: leaving, signal: AbortSignal.timeout(ANSWER_MS) },
          ),
        ...pageClock,
        told,
        store,
      },
    );
    keeper.current = begun;
    begun.begin();
    const leave = () => void begun.flush(true);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      begun.stop();
    };
    // `fresh` follows from `data`.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [data]);

  const changed = useCallback((draft: Draft) => keeper.current?.edited(draft), []);
  const flush = useCallback(() => keeper.current?.flush() ?? Promise.resolve(false), []);
  const forget = useCallback(() => {
    keeper.current?.abandon();
    justKept(data.formKey, null);
  }, [data.formKey]);
  const version = useCallback(() => keeper.current?.version ?? 0, []);
  const settle = useCallback(
    (use: boolean) => {
      if (both !== null && use) {
        latest.current.show(both);
        keeper.current?.edited(both.draft);
      } else if (both !== null) copiesOf(data).clear(id);
      setBoth(null);
    },
    [both, data, id],
  );
  // Where it is neither on the server nor on the device, the page is all there is.
  const isLost = !onDevice && keeping.t !== 'kept' && keeping.t !== 'fresh';
  useEffect(() => {
    if (!isLost) return;
    const leave = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', leave);
    return () => window.removeEventListener('beforeunload', leave);
  }, [isLost]);
  return { id, keeping, onDevice, changed, flush, forget, version, both, settle };
}

/** Copies of a change lie apart from those of new sheets, each record's by itself. */
const copiesOf = ({ deviceKey, formKey, record }: SheetData): DeviceCopies =>
  new DeviceCopies(deviceKey, record === null ? formKey : `${formKey} ${record.id}`);

/** The draft as the server has it, or as it begins. */
const draftOnServer = ({ answers, record }: SheetData): Draft =>
  record === null
    ? { answers }
    : {
        answers: record.draft?.answers ?? answers,
        of: { record: record.id, base: record.draft?.base ?? record.base },
      };
