import { useState } from 'react';
import { counted } from '../../core/wording/numbers';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { focused } from '../kit/focused';
import { tablesOf, type AllChosen } from './chosen';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Says what will be gone before it is, and of which columns. */
export function ErasePanel({
  chosen,
  atFirst,
  busy,
  onErase,
  onLeave,
}: {
  chosen: AllChosen;
  atFirst: Readonly<Record<string, readonly string[]>>;
  busy: boolean;
  onErase: (columns: Readonly<Record<string, readonly string[]>>) => void;
  onLeave: () => void;
}) {
  const [columns, setColumns] = useState(atFirst);
  const kept = [...chosen.records.values()].filter(({ record }) => record.keptUntil !== null).length;
  return (
    <section className="mt-4 border-t border-slate-200 pt-3" aria-label={speak`Erase`}>
      <p className="mb-1 [overflow-wrap:anywhere]">
        {[...chosen.records.values()].map(({ record: { id, number, title } }, i) => (
          <span key={id}>
            {i > 0 && ', '}
            <span className="font-mono text-[14px]">{number}</span>
            {title !== number && (
              <>
                {' '}
                <bdi className="font-semibold">{title}</bdi>
              </>
            )}
          </span>
        ))}
        {chosen.submissions.size > 0 &&
          speak`${chosen.records.size > 0 ? ', and ' : ''}${counted(chosen.submissions.size, 'submission')} that became no record`}
      </p>
      {tablesOf(chosen).map((table) => (
        <Sentence key={table.id}>{speakIn`In ${table.label}, ${(
          <Several
            label={speak`What is emptied in ${table.label}`}
            values={columns[table.id] ?? []}
            none="nothing"
            choices={table.columns.map(({ id, label }) => ({ value: id, label }))}
            joined={speak` and `}
            onChange={(values) => setColumns({ ...columns, [table.id]: values })}
          />
        )} ${(columns[table.id] ?? []).length === 1 ? speak`is` : speak`are`} emptied`}</Sentence>
      ))}
      <p className="mt-1 text-[14px]">{speakIn`So are the same columns in their history, the answers they were sent with, and what is marked in their rows. The records themselves stay, with all else that stands in them. Nobody can bring it back.${kept > 0 && speak` What must be kept is left as it is.`}`}</p>
      <div className="mt-3 flex flex-wrap gap-2">
        <button
          type="button"
          className="button button-go"
          disabled={busy}
          onClick={() => onErase(columns)}
        >{speak`Erase it for good`}</button>
        <button type="button" ref={focused} className="button" onClick={onLeave}>{speak`Leave it`}</button>
      </div>
    </section>
  );
}
