import { useCallback, useEffect, useMemo } from 'react';
import type { MayEdit } from '../../contract/answers-from-server';
import { pressedSort, readSorts, sortText } from '../../core/record/places';
import type { NewRecord } from '../../core/record/staged';
import type { Column, Table } from '../../core/table/model';
import type { Arrangement } from './arrangement';
import { Grid } from './Grid';
import { useGrid } from './use-grid';
import { useRecords, type Query } from './use-records';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';

export interface Part {
  readonly table: Table;
  readonly may: MayEdit;
  readonly arrangement: Arrangement;
  readonly query: Query;
  /** What a new record here begins with. */
  readonly fresh: Omit<NewRecord, 'id'>;
  readonly edits: StagedEdits;
  /** The keys of the tables that references point to, by their ids. */
  readonly targets: Readonly<Record<string, string>>;
  /** Grows when somebody has changed something. */
  readonly changes: number;
  readonly onRecord?: (id: string) => void;
}

/** Some of a table's records within a page, with what can be done with them. */
export function usePart(part: Part) {
  const { table, may, arrangement, query, fresh, edits, targets, changes, onRecord = ignored } = part;
  const records = useRecords(table.key, query, null);
  const { refresh } = records;
  useEffect(() => {
    if (changes > 0) refresh();
  }, [changes, refresh]);
  const targetKey = useCallback((of: Column) => targets[of.target ?? ''] ?? null, [targets]);
  const hand = useGrid({
    table,
    arrangement,
    may,
    fresh,
    hasBlank: false,
    rows: records.rows,
    isWhole: records.isWhole,
    edits,
    targetKey,
    onRecord,
  });
  return { records, hand, targetKey };
}

const ignored = (): void => undefined;

interface Props {
  readonly label: string;
  readonly part: ReturnType<typeof usePart>;
  readonly arrangement: Arrangement;
  readonly sort: string;
  readonly onSort: (sort: string) => void;
  readonly page: (number: string) => string;
}

/** They in a grid of their own, as high as they need, up to a point. */
export function PartGrid({
  label,
  part: { records, hand, targetKey },
  arrangement,
  sort,
  onSort,
  page,
}: Props) {
  const sorts = useMemo(() => readSorts(sort), [sort]);
  if (records.isError)
    return (
      <p role="alert" className="trouble">{speak`These could not be fetched. Try again in a moment.`}</p>
    );
  // Whoever adds one before the others have come types in it at once.
  if (hand.lines.length === 0)
    return records.first === null ? (
      <div aria-hidden className="h-9 rounded bg-slate-100" />
    ) : (
      <p className="quiet">{speak`None yet.`}</p>
    );
  return (
    <div className="flex flex-col" style={{ height: heightOf(hand.lines.length) }}>
      <Grid
        isPart
        label={label}
        arrangement={arrangement}
        hand={hand}
        sorts={sorts}
        onSort={(by, also) => onSort(sortText(pressedSort(sorts, by, also)))}
        more={records.more}
        targetKey={targetKey}
        page={page}
      />
    </div>
  );
}

const LINE = 36;
/** Lines shown before a grid within a page scrolls by itself. */
const MOST_LINES = 8;
/** With the heading, and room for the bar that scrolls sideways. */
const heightOf = (lines: number): number => (Math.min(lines, MOST_LINES) + 1) * LINE + 16;
