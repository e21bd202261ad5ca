import type { RecordData } from '../../contract/answers-from-server';
import type { Place } from '../../core/record/places';
import type { Table } from '../../core/table/model';
import { shownCell, storedCell, titleOf } from './record-cells';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly table: Table;
  readonly rows: readonly RecordData[];
  readonly shown: readonly Place[];
  readonly inHand: string | null;
  readonly onRecord: (id: string) => void;
  readonly page: (number: string) => string;
  readonly isWhole: boolean;
  readonly more: () => void;
}

/** Records as cards: what each is called, and what is shown of it. */
export function Cards({ table, rows, shown, inHand, onRecord, page, isWhole, more }: Props) {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto bg-slate-100 p-3 max-lg:overflow-visible">
      <ul
        aria-label={speak`Records of ${table.label}`}
        className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-3"
      >
        {rows.map((row) => (
          <li
            key={row.id}
            className={`rounded-lg border bg-white p-3 text-[14px] ${inHand === row.id ? 'border-lichen shadow-[inset_4px_0_0_var(--color-lichen)]' : 'border-slate-200'}`}
          >
            <p className="flex items-baseline justify-between gap-2">
              <button
                type="button"
                className="min-w-0 text-left text-[16px] font-semibold break-words hover:underline"
                onClick={() => onRecord(row.id)}
              >
                {titleOf(table, row) || row.number}
              </button>
              <a href={page(row.number)} className="shrink-0 font-mono text-[13px] text-lichen-deep">
                {row.number}
              </a>
            </p>
            <dl className="mt-1.5 grid grid-cols-[auto_minmax(0,1fr)] gap-x-2">
              {shown
                .filter(({ column }) => !table.title.includes(column.id))
                .map(({ column }) => ({ column, text: shownCell(column, storedCell(column, row)) }))
                .filter(({ text }) => text !== '')
                .map(({ column, text }) => (
                  <div key={column.id} className="contents">
                    <dt className="max-w-28 truncate text-slate-600">{column.label}</dt>
                    <dd className="line-clamp-2 break-words">{text}</dd>
                  </div>
                ))}
            </dl>
          </li>
        ))}
      </ul>
      {!isWhole && (
        <p className="pt-3 text-center">
          <button type="button" className="button" onClick={more}>{speak`Show more`}</button>
        </p>
      )}
    </div>
  );
}
