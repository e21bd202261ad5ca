import { formatsHere } from '../../core/formats/formats';
import { counted, digits } from '../../core/wording/numbers';
import { columnPath } from '../../core/import/decisions';
import type { DetectedSheet } from '../../core/import/detection';
import { type PlannedTable } from '../../core/import/import-plan';
import { previewRows, recordsOf } from '../../core/import/preview';
import type { ColumnKind } from '../../core/table/model';
import { addedTo, relationsOf } from '../../core/import/references';
import type { Importing } from './use-import';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly importing: Importing;
  readonly planned: PlannedTable;
  readonly sheet: DetectedSheet;
  /** The column in hand, as `Sheet/Column`. */
  readonly picked: string | null;
  readonly pick: (path: string | null) => void;
}

/** Rows of each sheet that are shown. */
const SHOWN = 3;

/** A table that would come of a sheet, with its first rows. */
export function PlannedGrid({ importing, planned, sheet, picked, pick }: Props) {
  const {
    data: { detection, samples },
    asks,
    plan,
    decisions,
  } = importing;
  const pathOf = (at: number | undefined) =>
    columnPath(sheet.name, sheet.columns.find((one) => one.at === at)?.name ?? '');
  const waiting = new Set(asks.map(({ path }) => path));
  const misses =
    detection === null
      ? []
      : relationsOf(detection, decisions).filter(({ from }) => from.sheet === sheet.name);
  const notThere = (at: number) =>
    misses
      .filter(({ from }) => columnPath(sheet.name, from.column) === pathOf(at))
      .flatMap((one) => one.misses.map(({ text }) => text));
  const rows = previewRows(planned, samples[sheet.name] ?? [], SHOWN, formatsHere().zone, {
    asItStands: (at) => waiting.has(pathOf(at)),
    notThere,
  });
  const parent = plan.tables.find(({ table }) => table.id === planned.table.parent)?.table.label;
  const added =
    detection === null || planned.rows.t !== 'each' ? 0 : addedTo(detection, decisions, sheet.name);
  return (
    <div className="pt-1 pr-5 pb-4 pl-[46px] max-sm:pl-3">
      <p className="mb-1 text-[14px]">
        {planned.rows.t !== 'each' && (
          <>
            <strong>{planned.table.label}</strong>{' '}
          </>
        )}
        <span className="font-mono text-[13px] text-slate-600">{speak`records.${planned.table.key}`}</span>{' '}
        <span className="quiet">
          {detection !== null &&
            counted(
              recordsOf(planned, detection, decisions),
              planned.into === null ? speak`record` : speak`row`,
            )}
          {parent !== undefined && speak`, rows of ${parent}`}
          {added > 0 && speak`, and ${digits(added)} for what is named and not there`}
        </span>
      </p>
      <div
        className="relative overflow-x-auto rounded-md border border-slate-200"
        tabIndex={0}
        role="region"
        aria-label={speak`First rows of ${planned.table.label}`}
      >
        <table className="grid-table">
          <thead className="bg-slate-50">
            <tr>
              {planned.columns.map(({ column, at, finds }) => {
                const path = pathOf(at[0]);
                const waits = waiting.has(path);
                return (
                  <th
                    key={column.id}
                    className={`${picked === path ? 'bg-lichen-soft' : ''} ${isNumeric(column.kind) ? 'text-right!' : ''}`}
                  >
                    <button
                      type="button"
                      aria-pressed={picked === path}
                      onClick={() => pick(path)}
                      className={`rounded whitespace-nowrap hover:text-ink ${isNumeric(column.kind) ? 'text-right' : 'text-left'}`}
                    >
                      <span className={waits ? 'marked text-ink' : ''}>
                        {column.label}
                        {column.unit !== '' && column.kind !== 'money' && `, ${column.unit}`}
                      </span>
                      <span className="block font-normal">
                        {finds === null ? shortKind()[column.kind] : `→ ${finds.label}`}
                        {column.personal !== null && <span className="text-plum"> {speak`· personal`}</span>}
                      </span>
                    </button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {rows.map((cells, i) => (
              <tr key={i}>
                {cells.map(({ text, trouble }, j) => (
                  <td
                    key={j}
                    className={`${trouble ? 'font-semibold text-rust' : ''} ${isNumeric(planned.columns[j]?.column.kind) ? 'tabular text-right' : ''}`}
                  >
                    <span
                      className={`block max-w-56 truncate ${isNumeric(planned.columns[j]?.column.kind) ? 'ml-auto' : ''}`}
                      title={text}
                    >
                      {text}
                    </span>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

const isNumeric = (kind: ColumnKind | undefined): boolean =>
  kind === 'whole' || kind === 'decimal' || kind === 'money';

const shortKind = spoken((): Readonly<Record<ColumnKind, string>> => ({
  text: speak`text`,
  whole: speak`whole number`,
  decimal: speak`number`,
  money: speak`money`,
  date: speak`date`,
  time: speak`time`,
  'date-time': speak`date, time`,
  'yes-no': speak`yes/no`,
  choice: speak`choice`,
  choices: speak`choices`,
  files: speak`files`,
  reference: speak`record`,
  'e-mail': speak`e-mail`,
  'web-address': speak`web address`,
  phone: speak`phone`,
}));
