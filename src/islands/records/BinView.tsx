import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { BinData, RemovedRecord } from '../../contract/answers-from-server';
import type { SavedEdits } from '../../contract/record-edits';
import type { EditInput } from '../../core/record/edit-input';
import { newUuid } from '../../core/kernel/ids';
import { counted } from '../../core/wording/numbers';
import { call, fetched } from '../kit/call';
import { RotateCcw } from '../kit/icons';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { sayWithUndo } from '../kit/say';
import Toasts from '../kit/Toasts';
import { when } from '../kit/when';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function BinView({ initial }: { readonly initial: BinData }) {
  return (
    <Root>
      <Bin initial={initial} />
      <Toasts />
    </Root>
  );
}

/** What was removed from a table, who did it, and the way back. */
function Bin({ initial }: { readonly initial: BinData }) {
  const { table, days } = initial;
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ['bin', table.key],
    queryFn: () => fetched<BinData>(`/api/tables/${table.key}/bin`),
    initialData: initial,
  });
  const [refused, setRefused] = useState<{ readonly id: string; readonly words: string } | null>(null);
  const refresh = () => void queries.invalidateQueries({ queryKey: ['bin', table.key] });
  useLive([`table:${table.id}`], refresh);

  const send = async (id: string, words: string, edits: readonly EditInput[]): Promise<void> => {
    setRefused(null);
    const result = await call<SavedEdits>('POST', '/api/edits', { key: newUuid(), edits }).catch(() => null);
    if (result === null)
      return setRefused({ id, words: speak`The server cannot be reached. Try again in a moment.` });
    if (!result.ok)
      return setRefused({ id, words: result.error.issues?.[0]?.sentence ?? result.error.title });
    sayWithUndo(words, () => void send(id, speak`In the bin again`, result.value.undo));
    refresh();
  };
  const bringBack = ({ id, number, version }: RemovedRecord) =>
    send(id, speak`${number} is back`, [{ t: 'restore', table: table.id, id, version }]);

  return (
    <>
      <p className="quiet pt-3.5">
        <a href="/tables" className="crumb">{speak`Tables`}</a> ›{' '}
        <a href={`/tables/${table.key}`} className="crumb">
          {table.label}
        </a>
      </p>
      <h1 className="pb-2 text-[23px]">{speakIn`Bin of ${table.label} ${(
        <span className="quiet font-sans font-normal" role="status">
          {data.more ? speak`the latest ` : ''}
          {counted(data.removed.length, 'record')}
        </span>
      )}`}</h1>
      <div className="rounded-lg border border-slate-200 bg-white">
        {data.removed.length === 0 ? (
          <p className="p-5">{speak`Nothing is in the bin. What is removed from ${table.label} stays here for ${days} days, and can be brought back.`}</p>
        ) : (
          <>
            <p className="quiet border-b border-slate-200 px-5 py-2.5">{speak`A record comes back with the rows that went with it. After ${days} days it is removed for good.`}</p>
            <ul aria-label={speak`Removed records`}>
              {data.removed.map((record) => (
                <li
                  key={record.id}
                  className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-slate-200 px-5 py-2.5"
                >
                  <span className="font-mono">{record.number}</span>
                  <span className="min-w-0 flex-1 basis-48 font-semibold break-words">{record.title}</span>
                  <span className="quiet">{speak`removed ${record.by === null ? '' : speak`by ${record.by}, `}${when(record.at)}`}</span>
                  <button
                    type="button"
                    className="button"
                    aria-label={speak`Bring back ${record.number}`}
                    onClick={() => void bringBack(record)}
                  >
                    <RotateCcw size={15} aria-hidden />
                    {speak`Bring back`}
                  </button>
                  {refused?.id === record.id && (
                    <p role="alert" className="trouble mt-0! basis-full">
                      {refused.words}
                    </p>
                  )}
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </>
  );
}
