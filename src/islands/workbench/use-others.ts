import { useEffect, useState } from 'react';
import type { WorkbenchData } from '../../contract/answers-from-server';
import { call } from '../kit/call';
import { useLiveWords } from '../kit/live';

/** Moving through lines with the keyboard tells the last of them only. */
const TELL_AFTER_MS = 300;
const AGAIN_MS = 20_000;
/** Whoever has not been heard of for so long has left. */
const GONE_AFTER_MS = 45_000;

/** Who else designs this form now, and which line each of them has in hand. */
export function useOthers(data: WorkbenchData, line: string | null): ReadonlyMap<string, readonly string[]> {
  const [seen, setSeen] = useState<ReadonlyMap<string, { line: string; at: number }>>(new Map());
  useEffect(() => {
    const tell = () => void call('POST', `/api/forms/${data.id}/at`, { line }).catch(() => undefined);
    const soon = setTimeout(tell, TELL_AFTER_MS);
    const again = setInterval(() => {
      if (!document.hidden) tell();
      setSeen((before) => new Map([...before].filter(([, { at }]) => Date.now() - at < GONE_AFTER_MS)));
    }, AGAIN_MS);
    return () => {
      clearTimeout(soon);
      clearInterval(again);
    };
  }, [data.id, line]);
  useLiveWords(`form:${data.id}`, (words) => {
    const [person = '', at = ''] = words.split(' ');
    if (person === data.me) return;
    setSeen((before) => new Map(before).set(person, { line: at, at: Date.now() }));
  });
  const names = new Map(data.people.map(({ id, name }) => [id, name]));
  const byLine = new Map<string, string[]>();
  for (const [person, { line: at }] of seen)
    byLine.set(at, [...(byLine.get(at) ?? []), names.get(person) ?? 'Somebody']);
  return byLine;
}
