import { useState } from 'react';
import type { WaitingSummary } from '../../contract/answers-from-server';
import { newUuid } from '../../core/kernel/ids';
import { call, troubleOf } from '../kit/call';
import { speak } from '../../core/wording/speak';

/** Several approved together: each is a decision of its own, so one that was decided meanwhile holds up none of the others. */
export function useTogether(waiting: readonly WaitingSummary[], refetch: () => Promise<unknown>) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [told, setTold] = useState<{ readonly done: number; readonly troubles: readonly string[] } | null>(
    null,
  );
  const [busy, setBusy] = useState(false);
  // What is gone from the list, or has become unusual, is chosen no more.
  const chosen = waiting.filter(({ id, unusual }) => picked.has(id) && unusual.length === 0);
  const pick = (id: string, on: boolean) =>
    setPicked((before) => new Set(on ? [...before, id] : [...before].filter((one) => one !== id)));
  const pickAll = (on: boolean) =>
    setPicked(new Set(on ? waiting.filter(({ unusual }) => unusual.length === 0).map(({ id }) => id) : []));
  const approve = async () => {
    setBusy(true);
    setTold(null);
    const troubles: string[] = [];
    for (const one of chosen) {
      const trouble = await approveOne(one);
      if (trouble !== null) troubles.push(`${one.number ?? one.title}: ${trouble}`);
    }
    setPicked(new Set());
    setTold({ done: chosen.length - troubles.length, troubles });
    setBusy(false);
    await refetch();
  };
  return { chosen, told, busy, pick, pickAll, approve };
}

/** What is wrong with it, or null. */
async function approveOne({ id, version, place: step }: WaitingSummary): Promise<string | null> {
  const body = { key: newUuid(), version, step, decision: 'approve', word: '' };
  try {
    const result = await call('POST', `/api/submissions/${id}/decide`, body);
    if (result.ok) return null;
    return troubleOf(result.error);
  } catch {
    return speak`The server cannot be reached; whether it was decided shows once it can`;
  }
}
