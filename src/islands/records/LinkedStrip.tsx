import { Link2, RotateCw, TriangleAlert, Unlink } from '../kit/icons';
import { useEffect, useState } from 'react';
import type { Freshness } from '../../core/link/link';
import {
  everyChoices,
  linkedRights,
  refreshedSentence,
  sourceFaultSentence,
} from '../../core/wording/source-sentence';
import { Age } from '../kit/Age';
import { call } from '../kit/call';
import { Select } from '../kit/Select';
import { clock } from '../kit/when';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly table: string;
  readonly freshness: Freshness;
  readonly mayDesign: boolean;
  readonly onChanged: () => void;
}

/** Where the records of a linked table come from, and how old they are. */
export function LinkedStrip({ table, freshness, mayDesign, onChanged }: Props) {
  const { source, place, refreshedAt, triedAt, fault, refreshed } = freshness;
  const [asked, setAsked] = useState<string | null | false>(false);
  const [trouble, setTrouble] = useState('');
  // What was asked for has come when it was tried later than before.
  useEffect(() => setAsked((before) => (before === triedAt ? before : false)), [triedAt]);
  const tell = async (method: 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<boolean> => {
    const done = await call(method, `/api/tables/${table}/link${path}`, body).catch(() => null);
    setTrouble(done === null ? speak`The server could not be reached` : done.ok ? '' : done.error.title);
    if (done?.ok === true) onChanged();
    return done?.ok === true;
  };
  const refresh = async () => {
    setAsked(triedAt);
    if (!(await tell('POST', '/refresh', {}))) setAsked(false);
  };
  return (
    <section
      aria-label={speak`Where these records come from`}
      className={`mb-2 rounded-lg border px-4 py-2 text-[14px] ${fault === null ? 'border-slate-200 bg-white' : 'border-ochre bg-ochre-soft'}`}
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="flex items-center gap-1.5">
          <Link2 size={15} aria-hidden className="text-slate-600" />
          <span>
            {speak`From`}{' '}
            {mayDesign ? (
              <a href={`/sources/${place}`} className="font-semibold text-lichen-deep">
                {source}
              </a>
            ) : (
              <strong>{source}</strong>
            )}
            {refreshedAt === null ? (
              speak`, not yet copied`
            ) : (
              <>{speakIn`, as it was ${(
                <strong>
                  <Age iso={refreshedAt} />
                </strong>
              )}`}</>
            )}
          </span>
        </span>
        {fault === null && refreshed !== null && (
          <span className="quiet">{speak`The last time ${refreshedSentence(refreshed)}`}</span>
        )}
        <span className="ml-auto flex flex-wrap items-center gap-x-3">
          {mayDesign && (
            <span className="flex items-center gap-1.5">{speakIn`Refreshed ${(
              <Select
                label={speak`How often it is refreshed`}
                value={String(freshness.every)}
                choices={everyChoices().map(({ value, label }) => ({ value: String(value), label }))}
                onChange={(value) => void tell('PUT', '', { every: Number(value) })}
              />
            )}`}</span>
          )}
          <button
            type="button"
            className="button-plain"
            disabled={asked !== false}
            onClick={() => void refresh()}
          >
            <RotateCw size={14} aria-hidden className={asked === false ? '' : 'animate-spin'} />
            {asked === false ? speak`Refresh now` : speak`Refreshing …`}
          </button>
          {mayDesign && <EndLink source={source} onEnd={() => void tell('DELETE', '')} />}
        </span>
      </div>
      {fault !== null && (
        <p role="alert" className="mt-1 flex gap-1.5 font-semibold text-ochre">
          <TriangleAlert size={15} aria-hidden className="mt-0.5 shrink-0" />
          {speak`${source} cannot be read: ${sourceFaultSentence(fault)}. ${
            refreshedAt === null
              ? speak`It is tried again by itself.`
              : speak`These records are the last good copy; it is tried again by itself.`
          }`}{' '}
          {mayDesign && OTHER_THERE.has(fault.code) && (
            <a
              href={`/sources/${place}`}
              className="text-lichen-deep"
            >{speak`See what has become of it there`}</a>
          )}
        </p>
      )}
      {freshness.silentUntil !== null && (
        <p className="mt-1 font-semibold text-ochre">
          {speak`It has not answered several times in a row. Forms that write here say so at once instead of waiting; it is tried again at ${clock(freshness.silentUntil)}`}
          .
        </p>
      )}
      <p className="quiet mt-0.5">{linkedRights(freshness)}.</p>
      {trouble !== '' && (
        <p role="alert" className="trouble">
          {trouble}
        </p>
      )}
    </section>
  );
}

/** What may be mended by taking up what the table has become at its source. */
const OTHER_THERE: ReadonlySet<string> = new Set(['columns-gone', 'values-unfit', 'not-there']);

/** Asked once more, for it cannot be taken back by itself. */
function EndLink({ source, onEnd }: { source: string; onEnd: () => void }) {
  const [sure, setSure] = useState(false);
  if (!sure)
    return (
      <button type="button" className="button-plain text-slate-700!" onClick={() => setSure(true)}>
        <Unlink size={14} aria-hidden />
        {speak`End the link`}
      </button>
    );
  return (
    <span className="flex flex-wrap items-center gap-2">{speakIn`The records stay here, and ${source} is followed no more. ${(<button type="button" className="button button-stop" onClick={onEnd}>{speak`End the link`}</button>)}${(<button type="button" className="button" onClick={() => setSure(false)}>{speak`Keep it`}</button>)}`}</span>
  );
}
