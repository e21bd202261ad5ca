import type { ComponentProps } from 'react';
import { FacetMargin } from './FacetMargin';
import { RecordMargin } from './RecordMargin';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly isNarrowing: boolean;
  readonly onNarrowing: (isNarrowing: boolean) => void;
  readonly record: ComponentProps<typeof RecordMargin>;
  readonly facets: ComponentProps<typeof FacetMargin>;
}

/** Beside the grid: the record in hand, or what there is to narrow the records down by. */
export function RecordsMargin({ isNarrowing, onNarrowing, record, facets }: Props) {
  return (
    <aside
      id="margin"
      className="margin-pane"
      aria-label={isNarrowing ? speak`Narrow it down` : speak`The record in hand`}
    >
      <div
        className="flex gap-2 border-b border-slate-200 px-4 py-2"
        role="group"
        aria-label={speak`What the margin shows`}
      >
        {(
          [
            [speak`The record`, false],
            [speak`Narrow it down`, true],
          ] as const
        ).map(([words, narrows]) => (
          <button
            key={words}
            type="button"
            className="margin-face"
            aria-pressed={isNarrowing === narrows}
            onClick={() => onNarrowing(narrows)}
          >
            {words}
          </button>
        ))}
      </div>
      {isNarrowing ? <FacetMargin {...facets} /> : <RecordMargin {...record} />}
    </aside>
  );
}
