import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { BulkChangeData } from '../../contract/bulk-changes';
import { newUuid } from '../../core/kernel/ids';
import { call, fetched } from '../kit/call';
import { speak } from '../../core/wording/speak';

/** How often is asked how far it is. */
const ASKED_MS = 1_000;
/** On this device: the last one whose end was seen. */
const seenKey = (table: string): string => `tidy-slate bulk seen ${table}`;

type Begin = Pick<
  Extract<BulkChangeData['what'], { t: 'set' }>,
  'find' | 'where' | 'column' | 'value' | 'title'
>;

/** The last bulk change of a table that whoever looks has asked for, and what can be done with it. */
export function useBulk(key: string, mayChange: boolean) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState('');
  const [seen, setSeen] = useState<string | null>(null);
  useEffect(() => setSeen(localStorage.getItem(seenKey(key))), [key]);
  const { data } = useQuery({
    queryKey: ['bulk', key],
    queryFn: () => fetched<{ last: BulkChangeData | null }>(`/api/tables/${key}/bulk`),
    enabled: mayChange,
    refetchInterval: ({ state }) => (state.data?.last?.state === 'running' ? ASKED_MS : false),
  });
  const send = async (path: string, body: object): Promise<boolean> => {
    const done = await call<BulkChangeData>('POST', path, body).catch(() => null);
    const refusal = done?.ok === false ? done.error : null;
    setTrouble(
      done === null
        ? speak`The server cannot be reached; nothing was begun. Try again in a moment.`
        : refusal === null
          ? ''
          : (refusal.issues?.[0]?.sentence ?? refusal.title),
    );
    await queries.invalidateQueries({ queryKey: ['bulk', key] });
    return done?.ok === true;
  };
  const last = data?.last ?? null;
  return {
    last: last !== null && last.id === seen && last.state !== 'running' ? null : last,
    trouble,
    begin: (what: Begin) => send(`/api/tables/${key}/bulk`, { id: newUuid(), ...what }),
    stop: () => send(`/api/bulk/${last?.id}`, { do: 'stop' }),
    takeBack: () => send(`/api/bulk/${last?.id}`, { do: 'take-back', id: newUuid() }),
    dismiss: () => {
      if (last === null) return;
      localStorage.setItem(seenKey(key), last.id);
      setSeen(last.id);
    },
  };
}
