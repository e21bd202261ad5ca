import type { PickGroup } from '../../core/check/pick-text';
import type { Filterable } from '../../core/record/filter';
import { CircleX } from './icons';
import { Condition } from './Condition';
import { wordsIn } from './filter-words';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly filterables: readonly Filterable[];
  readonly group: PickGroup;
  /** Null to take it away. */
  readonly onGroup: (group: PickGroup | null) => void;
}

const heads = spoken(() => ({ any: speak`any of`, all: speak`all of`, none: speak`none of` }));
const told = spoken(() => ({
  any: speak`One of them is enough. Press for none of them.`,
  all: speak`All of them hold. Press for none of them.`,
  none: speak`None of them may hold. Press to let them hold.`,
}));

/** Conditions that stand together as one: any, all or none of them. */
export function FilterGroup({ filterables, group, onGroup }: Props) {
  const { join, within, picks } = group;
  const put = (next: PickGroup['picks']) => onGroup(next.length === 0 ? null : { ...group, picks: next });
  const word = join === 'none' || join === 'any' ? speak`or` : speak`and`;
  return (
    <span
      role="group"
      aria-label={speak`${heads()[join]} ${picks.length} conditions`}
      className="flex flex-wrap items-center gap-x-2 gap-y-1 rounded-md border border-slate-300 bg-slate-50 px-2 py-0.5"
    >
      <button
        type="button"
        className="button-plain px-1 text-lichen-deep!"
        title={told()[join]}
        onClick={() => onGroup({ ...group, join: join === 'none' ? within : 'none' })}
      >
        {heads()[join]}
      </button>
      {picks.map((pick, i) => (
        <span key={`${pick.left} ${i}`} className="flex items-center gap-2">
          {i > 0 && <span className="shrink-0 text-slate-600">{word}</span>}
          <Condition
            filterables={filterables}
            pick={pick}
            words={wordsIn(filterables, pick)}
            onDone={(next) => put(picks.map((one, at) => (at === i ? next : one)))}
            onDrop={() => put(picks.filter((_, at) => at !== i))}
          />
        </span>
      ))}
      <Condition
        filterables={filterables}
        pick={null}
        words={`${word} …`}
        isOpen={picks.length === 1 && join !== 'none'}
        onDone={(next) => put([...picks, next])}
      />
      <button type="button" aria-label={speak`Take these conditions away`} onClick={() => onGroup(null)}>
        <CircleX size={15} aria-hidden />
      </button>
    </span>
  );
}
