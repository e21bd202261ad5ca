import { useCallback, useMemo, useState } from 'react';
import type { RecordData, RelatedTable, TableAtWork } from '../../contract/answers-from-server';
import { digits } from '../../core/wording/numbers';
import { Plus } from '../kit/icons';
import { plainArrangement } from './arrangement';
import { PartGrid, usePart } from './PartGrid';
import { relatedBy } from './record-text';
import type { Table } from '../../core/table/model';
import type { TypedCell } from '../../core/record/staged';
import { storedCell } from './record-cells';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';

export interface RelatedTo {
  readonly id: string;
  readonly name: string;
  /** As it is saved; null while it is not. */
  readonly row: RecordData | null;
}

interface Props {
  /** The table of the record they are related to. */
  readonly work: Pick<TableAtWork, 'table' | 'targets'>;
  readonly related: RelatedTable;
  readonly record: RelatedTo;
  readonly edits: StagedEdits;
  /** Grows when somebody has changed something. */
  readonly changes: number;
}

/**
 * The records of a table that are related to one: edited in place, and added with the reference, or what they
 * have in common, filled in.
 */
export function RelatedGrid({ work, related, record, edits, changes }: Props) {
  const { table, column, via, same, may } = related;
  const shared = useMemo(
    () => sharedCell(related, work.table, { id: record.id, name: record.name, row: record.row }),
    [related, work.table, record.id, record.name, record.row],
  );
  const [sort, setSort] = useState(column === null ? 'position' : '-number');
  const arrangement = useMemo(
    () => plainArrangement(table.columns.filter(({ id }) => same !== null || id !== column)),
    [table, column, same],
  );
  const fresh = useMemo(
    () => ({
      table: table.id,
      parent: column === null ? record.id : null,
      given: column === null || shared === null ? {} : { [column]: shared },
    }),
    [table.id, column, record.id, shared],
  );
  const query = useMemo(() => ({ sort, find: '', where: '', of: record.id, via }), [sort, record.id, via]);
  const part = usePart({ table, may, arrangement, query, fresh, edits, targets: work.targets, changes });
  const page = useCallback(
    (number: string) => `/tables/${table.key}/${encodeURIComponent(number)}`,
    [table.key],
  );
  const by = relatedBy(related, work.table);
  const mayAdd = may.add && (column === null || (table.parent === null && shared !== null));
  const { first } = part.records;
  return (
    <section className="border-t border-slate-200 py-3 pl-[46px] max-sm:pl-3" aria-label={table.label}>
      <h2 className="mb-1 flex flex-wrap items-center gap-2 pr-5 text-[17px]">
        {table.label}
        {by !== null && <span className="quiet font-sans font-normal">{by}</span>}
        {first !== null && (
          <span className="tag bg-slate-200 font-sans">
            {first.about ? speak`more than ` : ''}
            {digits(first.total)}
          </span>
        )}
        {mayAdd && (
          <button type="button" className="button-plain ml-auto font-sans" onClick={part.hand.addOne}>
            <Plus size={15} aria-hidden />
            {speak`Add to ${table.label}`}
          </button>
        )}
      </h2>
      <PartGrid
        label={speak`${table.label} of ${record.name}`}
        part={part}
        arrangement={arrangement}
        sort={sort}
        onSort={setSort}
        page={page}
      />
    </section>
  );
}

/**
 * What a record that is added here has in the column that relates it: the record itself, or the value they
 * share; null where that holds nothing.
 */
function sharedCell({ same }: RelatedTable, of: Table, { id, name, row }: RelatedTo): TypedCell | null {
  if (same === null) return { raw: id, title: name };
  const column = of.columns.find((one) => one.id === same);
  const cell = column === undefined || row === null ? null : storedCell(column, row);
  return cell === null || cell.raw === null ? null : cell;
}
