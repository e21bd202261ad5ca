import type { Pick, Picked } from '../../core/check/pick-text';
import { grouped, otherJoin, withGroup } from '../../core/record/picked-filter';
import type { Filterable } from '../../core/record/filter';
import { CircleX } from './icons';
import { Condition } from './Condition';
import { FilterGroup } from './FilterGroup';
import { WriteIt } from './WrittenFilter';
import type { FilterFault } from './filter-words';
import { wordsIn } from './filter-words';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly filterables: readonly Filterable[];
  readonly where: string;
  /** The filter as it was picked; null where picking could not have made it. */
  readonly picked: Picked | null;
  readonly onPicked: (picked: Picked) => void;
  /** A filter that is written by hand; gives what is wrong with it, or null. */
  readonly onWritten: (where: string) => Promise<FilterFault | null>;
  /** What it begins with. */
  readonly says?: string;
}

/** Which records are shown, as conditions that read as a sentence; each can be changed where it stands. */
export function FilterLine({
  filterables,
  where,
  picked,
  onPicked,
  onWritten,
  says = speak`Show those where`,
}: Props) {
  // A filter that picking could not have made stands as it is written.
  const filter = where === '' ? NOTHING : picked;
  if (filterables.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-[14px]">
      <span className="text-slate-600">{says}</span>
      {filter === null ? (
        <Chip words={where} onDrop={() => onPicked(NOTHING)} />
      ) : (
        <Picks filterables={filterables} filter={filter} onPicked={onPicked} />
      )}
      <WriteIt where={where} says={says} onWritten={onWritten} />
    </div>
  );
}

const NOTHING: Picked = { join: 'all', picks: [] };

interface PicksProps {
  readonly filterables: readonly Filterable[];
  readonly filter: Picked;
  readonly onPicked: (picked: Picked) => void;
}

function Picks({ filterables, filter, onPicked }: PicksProps) {
  const { join, picks, groups = [] } = filter;
  const word = join === 'all' ? speak`and` : speak`or`;
  const put = (next: readonly Pick[]) => onPicked({ ...filter, picks: next });
  const joint = (
    <button
      type="button"
      className="button-plain shrink-0 px-1 text-lichen-deep!"
      title={
        join === 'all'
          ? speak`All of them hold. Press for any of them.`
          : speak`Any of them holds. Press for all of them.`
      }
      onClick={() => onPicked(otherJoin(filter))}
    >
      {word}
    </button>
  );
  return (
    <>
      {picks.map((pick, i) => (
        <span key={`${pick.left} ${i}`} className="flex items-center gap-2">
          {i > 0 && joint}
          <Condition
            filterables={filterables}
            pick={pick}
            words={wordsIn(filterables, pick)}
            onDone={(next) => put(picks.map((one, at) => (at === i ? next : one)))}
            onDrop={() => put(picks.filter((_, at) => at !== i))}
            onGroup={
              picks.length + groups.length < 2
                ? undefined
                : {
                    words: join === 'all' ? speak`or something else` : speak`and something else`,
                    begin: () => onPicked(grouped(filter, i)),
                  }
            }
          />
        </span>
      ))}
      {groups.map((group, i) => (
        <span key={i} className="flex flex-wrap items-center gap-2">
          {picks.length + i > 0 && joint}
          <FilterGroup
            filterables={filterables}
            group={group}
            onGroup={(next) => onPicked(withGroup(filter, i, next))}
          />
        </span>
      ))}
      <Condition
        filterables={filterables}
        pick={null}
        words={picks.length + groups.length === 0 ? speak`add a condition` : `${word} …`}
        onDone={(next) => put([...picks, next])}
      />
    </>
  );
}

function Chip({ words, onDrop }: { readonly words: string; readonly onDrop: () => void }) {
  return (
    <span className="pick">
      <code className="font-mono text-[13px] break-all">{words}</code>
      <button type="button" aria-label={speak`Take this condition away`} onClick={onDrop}>
        <CircleX size={15} aria-hidden />
      </button>
    </span>
  );
}
