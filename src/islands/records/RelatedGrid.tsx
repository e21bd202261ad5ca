import { useCallback, useMemo, useState } from 'react';
import type { RelatedTable, TableAtWork } from '../../contract/answers-from-server';
import { digits } from '../../core/wording/numbers';
import { Plus } from '../kit/icons';
import { plainArrangement } from './arrangement';
import { PartGrid, usePart } from './PartGrid';
import { referringBy } from './record-text';
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

/** The records of a table that belong or refer to one: edited in place, and added with the reference filled in. */
export function RelatedGrid({ work, related, record, edits, changes }: Props) {
  const { table, column, may } = related;
  const [sort, setSort] = useState(column === null ? 'position' : '-number');
  const arrangement = useMemo(
    () => plainArrangement(table.columns.filter(({ id }) => id !== column)),
    [table, column],
  );
  const fresh = useMemo(
    () => ({
      table: table.id,
      parent: column === null ? record.id : null,
      given: column === null ? {} : { [column]: { raw: record.id, title: record.name } },
    }),
    [table.id, column, record.id, record.name],
  );
  const query = useMemo(
    () => ({ sort, find: '', where: '', of: record.id, via: column ?? 'rows' }),
    [sort, record.id, column],
  );
  const part = usePart({ table, may, arrangement, query, fresh, edits, targets: work.targets, changes });
  const page = useCallback(
    (number: string) => `/tables/${table.key}/${encodeURIComponent(number)}`,
    [table.key],
  );
  const by = referringBy(related, work.table);
  const mayAdd = may.add && (column === null || table.parent === null);
  const { first } = part.records;
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
          <button type="button" className="button-plain ml-auto font-sans" onClick={part.hand.addOne}>
            <Plus size={15} aria-hidden />
            Add to {table.label}
          </button>
        )}
      </h2>
      <PartGrid
        label={`${table.label} of ${record.name}`}
        part={part}
        arrangement={arrangement}
        sort={sort}
        onSort={setSort}
        page={page}
      />
    </section>
  );
}
