import { useState } from 'react';
import { pickedText, type Pick, type Picked } from '../../core/check/pick-text';
import type { Filterable } from '../../core/record/filter';
import { Condition } from '../kit/Condition';
import { pickWords } from '../kit/filter-words';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly label: string;
  readonly filterables: readonly Filterable[];
  /** What is asked for. */
  readonly asks: readonly string[];
  /** What the view keeps; what is asked for stands in the place of its own. */
  readonly picked: Picked | null;
  readonly onDone: (where: string) => void;
}

/** Before a view loads anything: which values it is wanted for. */
export function AskFirst({ label, filterables, asks, picked, onDone }: Props) {
  const [given, setGiven] = useState<Readonly<Record<string, Pick>>>({});
  const known = asks.flatMap((text) => filterables.find((one) => one.text === text) ?? []);
  const rest = (picked?.picks ?? []).filter(({ left }) => !asks.includes(left));
  const missing = known.filter(({ text }) => given[text] === undefined);
  return (
    <div className="grid content-start gap-3 p-6">
      <h2 className="text-[17px]">{speak`${label}: show which?`}</h2>
      <ul className="grid gap-2">
        {known.map((of, i) => (
          <li key={of.text} className="flex flex-wrap items-center gap-2">
            <span className="font-mono text-[13px] font-semibold text-slate-600">{i + 1}</span>
            <Condition
              filterables={[of]}
              pick={given[of.text] ?? null}
              words={
                given[of.text] === undefined ? speak`${of.label} is …` : pickWords(of, given[of.text] as Pick)
              }
              onDone={(pick) => setGiven({ ...given, [of.text]: pick })}
            />
          </li>
        ))}
      </ul>
      <p className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="button button-dark"
          disabled={missing.length > 0}
          onClick={() =>
            onDone(pickedText({ ...(picked ?? { join: 'all' }), picks: [...rest, ...Object.values(given)] }))
          }
        >{speak`Show them`}</button>
        {missing.length > 0 && (
          <span className="quiet">{speak`Say ${missing.map((one) => one.label).join(speak` and `)} first.`}</span>
        )}
      </p>
    </div>
  );
}
