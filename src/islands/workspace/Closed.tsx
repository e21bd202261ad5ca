import type { ClosedDays } from '../../core/workspace';
import { limits } from '../../core/limits';
import { showDate } from '../../core/formats/days';
import { useState } from 'react';
import { DayStretch, isDay } from '../kit/DayStretch';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly closed: readonly ClosedDays[];
  readonly today: string;
  readonly change: (closed: ClosedDays[]) => void;
}

/** Days one is closed besides the public holidays. What is over is still kept, but folded. */
export function Closed({ closed, today, change }: Props) {
  const [adding, setAdding] = useState<ClosedDays | null>(null);
  const ahead = [...closed].filter(({ until }) => until >= today).sort((a, b) => (a.from < b.from ? -1 : 1));
  const over = closed.length - ahead.length;
  const add = (one: ClosedDays) => {
    change([...closed, { ...one, until: one.until === '' ? one.from : one.until }]);
    setAdding(null);
  };
  return (
    <>
      <ul className="text-[14px]">
        {ahead.map((one) => (
          <li key={`${one.from} ${one.until}`} className="mb-1">
            <strong>{one.name === '' ? speak`Closed` : one.name}</strong>, {stretch(one)}{' '}
            <button
              type="button"
              className="button-plain"
              aria-label={speak`Take out ${one.name === '' ? speak`closed` : one.name}, ${stretch(one)}`}
              onClick={() => change(closed.filter((other) => other !== one))}
            >{speak`Take it out`}</button>
          </li>
        ))}
      </ul>
      {ahead.length === 0 && adding === null && (
        <p className="quiet mb-1">{speak`Nothing ahead. A week between the years, say, or a day of your own.`}</p>
      )}
      {over > 0 && <p className="quiet mb-1">{speak`${over} more that are over.`}</p>}
      {adding === null ? (
        <button
          type="button"
          className="button-plain"
          disabled={closed.length >= limits.closedDays}
          onClick={() => setAdding({ from: '', until: '', name: '' })}
        >{speak`Add days one is closed`}</button>
      ) : (
        <Adding one={adding} set={setAdding} onAdd={() => add(adding)} onCancel={() => setAdding(null)} />
      )}
    </>
  );
}

const stretch = ({ from, until }: ClosedDays): string =>
  from === until ? showDate(from) : speak`${showDate(from)} to ${showDate(until)}`;

interface AddingProps {
  readonly one: ClosedDays;
  readonly set: (one: ClosedDays) => void;
  readonly onAdd: () => void;
  readonly onCancel: () => void;
}

function Adding({ one, set, onAdd, onCancel }: AddingProps) {
  const ends = one.until === '' ? one.from : one.until;
  const ready = isDay(one.from) && isDay(ends) && one.from <= ends;
  return (
    <div className="max-w-110 rounded bg-slate-50 p-2">
      <DayStretch
        labels={{ from: speak`First day`, until: speak`Last day, if it is more than one` }}
        days={one}
        isWrong={(end) => end === 'until' && isDay(one.from) && isDay(ends) && one.from > ends}
        set={(part) => set({ ...one, ...part })}
      />
      <label className="mt-2 block text-[14px] font-semibold">
        {speak`Why`}
        <input
          className="box mt-0.5 font-normal"
          maxLength={limits.label}
          value={one.name}
          onChange={(event) => set({ ...one, name: event.target.value })}
        />
      </label>
      <p className="mt-2 flex gap-2">
        <button
          type="button"
          className="button button-dark"
          disabled={!ready}
          onClick={onAdd}
        >{speak`Add`}</button>
        <button type="button" className="button-plain" onClick={onCancel}>{speak`Not now`}</button>
      </p>
    </div>
  );
}
