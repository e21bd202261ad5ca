import type { WaitingSummary } from '../../contract/answers-from-server';
import { counts, type Narrowing, type Only } from '../../core/approval/narrowed';
import { Search } from '../kit/icons';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly waiting: readonly WaitingSummary[];
  readonly by: Narrowing;
  readonly narrow: (part: Partial<Narrowing>) => void;
}

/** So many are seen at once; fewer need no narrowing. */
const FEW = 8;

const onlyWords = spoken((): Readonly<Record<Only, string>> => ({
  late: speak`Late`,
  unusual: speak`With something unusual`,
  usual: speak`With nothing unusual`,
}));

/** Finds among what waits, and shows how many there are of each. */
export function Narrow({ waiting, by, narrow }: Props) {
  const isNarrowed = by.words !== '' || by.title !== null || by.only !== null;
  if (waiting.length <= FEW && !isNarrowed) return null;
  const { titles, only } = counts(waiting, by);
  const isOfSeveral = titles.length > 1 || by.title !== null;
  const pick = (words: string, n: number, on: boolean, press: () => void) => (
    <button key={words} type="button" className="margin-face" aria-pressed={on} onClick={press}>
      {words} <span className="tabular font-normal text-slate-600">{n}</span>
    </button>
  );
  return (
    <div
      role="search"
      aria-label={speak`Find among what waits`}
      className="flex flex-wrap items-center gap-x-1 gap-y-1.5 border-b border-slate-200 px-4 py-2"
    >
      <label className="relative mr-2">
        <span className="sr-only">{speak`Words in it`}</span>
        <Search size={15} aria-hidden className="absolute top-2.5 left-2.5 text-slate-600" />
        <input
          type="search"
          className="box w-56 pl-8!"
          placeholder={speak`Number, sender, words`}
          value={by.words}
          onChange={({ target }) => narrow({ words: target.value })}
        />
      </label>
      {isOfSeveral &&
        titles.map(([title, n]) =>
          pick(title, n, by.title === title, () => narrow({ title: by.title === title ? null : title })),
        )}
      {isOfSeveral && <span aria-hidden className="mx-1 h-5 border-l border-slate-300" />}
      {(Object.keys(onlyWords()) as Only[])
        .filter((one) => only[one] > 0 || by.only === one)
        .map((one) =>
          pick(onlyWords()[one], only[one], by.only === one, () =>
            narrow({ only: by.only === one ? null : one }),
          ),
        )}
    </div>
  );
}
