import { Table2 } from '../kit/icons';
import type { PackagedTable } from '../../core/import/detection';
import { columnWords } from '../../core/wording/change-sentence';
import { speak } from '../../core/wording/speak';

/** The tables of a Data Package with their columns, before they are made. */
export function PackagedTables({ packaged }: { packaged: readonly PackagedTable[] }) {
  return (
    <ol>
      {packaged.map(({ table }) => (
        <li key={table.id} className="line">
          <span className="gutter">
            <Table2 size={15} aria-hidden className="ml-auto" />
          </span>
          <div className="min-w-0">
            <h2 className="font-sans text-[15px]">
              {table.label}{' '}
              <span className="font-mono text-[13px] font-normal text-slate-600">{speak`records.${table.key}`}</span>
            </h2>
            <p className="quiet">
              {table.columns.map((column) => `${column.label} (${columnWords(column)})`).join(', ')}
            </p>
          </div>
        </li>
      ))}
    </ol>
  );
}
