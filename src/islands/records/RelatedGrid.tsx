import { useCallback, useEffect, useMemo, useState } from 'react';
import type { RelatedTable, TableAtWork } from '../../contract/answers-from-server';
import type { Column } from '../../core/table/model';
import { digits } from '../../core/wording/numbers';
import { Plus } from '../kit/icons';
import { Grid } from './Grid';
import { referringBy } from './record-text';
import { useGrid } from './use-grid';
import { useRecords, type Query } from './use-records';
import type { StagedEdits } from './use-staged';

interface Props {
  /** The table of the record they are related to. */
  readonly work: Pick<TableAtWork, 'table' | 'targets'>;
  readonly related: RelatedTable;
  readonly record: { readonly id: string; readonly name: string };
  readonly edits: StagedEdits;
  /** Grows when somebody has changed something. */
  readonly changes: number;
}

/** The records of a table that belong or refer to one, in a grid of their own: edited in place, and added with the reference filled in. */
export function RelatedGrid({ work, related, record, edits, changes }: Props) {
  const { table, column, may } = related;
  const [query, setQuery] = useState<Query>({
    sort: column === null ? 'position' : 'number',
    order: column === null ? 'up' : 'down',
    find: '',
    where: '',
    of: record.id,
    via: column ?? 'rows',
  });
  const records = useRecords(table.key, query, null);
  const { refresh, first } = records;
  useEffect(() => {
    if (changes > 0) refresh();
  }, [changes, refresh]);
  const columns = useMemo(() => table.columns.filter(({ id }) => id !== column), [table, column]);
  const fresh = useMemo(
    () => ({
      table: table.id,
      parent: column === null ? record.id : null,
      given: column === null ? {} : { [column]: { raw: record.id, title: record.name } },
    }),
    [table.id, column, record.id, record.name],
  );
  const targetKey = useCallback((of: Column) => work.targets[of.target ?? ''] ?? null, [work.targets]);
  const hand = useGrid({
    table,
    columns,
    may,
    fresh,
    hasBlank: false,
    rows: records.rows,
    isWhole: records.isWhole,
    edits,
    targetKey,
    onRecord: ignored,
  });
  const by = referringBy(related, work.table);
  const page = useCallback(
    (number: string) => `/tables/${table.key}/${encodeURIComponent(number)}`,
    [table.key],
  );
  const mayAdd = may.add && (column === null || table.parent === null);
  return (
    <section className="border-t border-slate-200 py-3 pl-[46px] max-sm:pl-3" aria-label={table.label}>
      <h2 className="mb-1 flex flex-wrap items-center gap-2 pr-5 text-[17px]">
        {table.label}
        {by !== null && <span className="quiet font-sans font-normal">by {by}</span>}
        {first !== null && (
          <span className="tag bg-slate-200 font-sans">
            {first.about ? 'more than ' : ''}
            {digits(first.total)}
          </span>
        )}
        {mayAdd && (
          <button type="button" className="button-plain ml-auto font-sans" onClick={hand.addOne}>
            <Plus size={15} aria-hidden />
            Add to {table.label}
          </button>
        )}
      </h2>
      {records.isError && (
        <p role="alert" className="trouble">
          These could not be fetched. Try again in a moment.
        </p>
      )}
      {first === null && !records.isError && <div aria-hidden className="h-9 rounded bg-slate-100" />}
      {first !== null && hand.lines.length === 0 && <p className="quiet">None yet.</p>}
      {hand.lines.length > 0 && (
        <div className="flex flex-col" style={{ height: heightOf(hand.lines.length) }}>
          <Grid
            isPart
            page={page}
            label={`${table.label} of ${record.name}`}
            columns={columns}
            hand={hand}
            query={query}
            onSort={(sort) =>
              setQuery({ ...query, sort, order: query.sort === sort && query.order === 'up' ? 'down' : 'up' })
            }
            more={records.more}
            targetKey={targetKey}
          />
        </div>
      )}
    </section>
  );
}

const ignored = (): void => undefined;

const LINE = 36;
/** Lines shown before a grid within a page scrolls by itself. */
const MOST_LINES = 8;
/** With the heading, and room for the bar that scrolls sideways. */
const heightOf = (lines: number): number => (Math.min(lines, MOST_LINES) + 1) * LINE + 16;
