import {
  endOfMonth,
  getDayOfWeek,
  isSameMonth,
  startOfMonth,
  startOfWeek,
  today,
  type CalendarDate,
} from '@internationalized/date';
import { useEffect, useMemo, useState } from 'react';
import type { RecordData } from '../../contract/answers-from-server';
import { bothFeel } from '../../core/record/groups';
import type { Place } from '../../core/record/places';
import type { Table } from '../../core/table/model';
import { counted } from '../../core/wording/numbers';
import { formatsHere, localeOf, weekBegins } from '../../core/formats/formats';
import { ChevronLeft, ChevronRight } from '../kit/icons';
import { titleOf } from './record-cells';
import { useRecords, type Query } from './use-records';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly table: Table;
  readonly query: Query;
  /** The day each record stands on. */
  readonly day: Place;
  readonly inHand: string | null;
  readonly onRecord: (id: string) => void;
  readonly changes: number;
}

/** Titles a day shows; what is more is counted. */
const MOST_A_DAY = 5;

/** Records by the day they stand on, a month at a time. */
export function Calendar({ table, query, day, inHand, onRecord, changes }: Props) {
  const here = formatsHere();
  const { zone } = here;
  const locale = localeOf(here);
  const now = today(zone);
  const [month, setMonth] = useState(startOfMonth(now));
  const [isAll, setAll] = useState<string | null>(null);
  const asked = useMemo(() => inMonth(query, day, month), [query, day, month]);
  const records = useRecords(table.key, asked, null);
  const { refresh, isWhole, more, rows } = records;
  useEffect(() => {
    if (changes > 0) refresh();
  }, [changes, refresh]);
  // A month is shown whole.
  useEffect(() => {
    if (!isWhole && rows.length < MOST_IN_MONTH) more();
  }, [isWhole, more, rows.length]);
  const byDay = useMemo(() => {
    const found = new Map<string, RecordData[]>();
    for (const row of rows) {
      const at = String(row.cells[day.column.id] ?? '').slice(0, 10);
      found.set(at, [...(found.get(at) ?? []), row]);
    }
    return found;
  }, [rows, day]);
  const days = daysOf(month, locale);
  const named = (date: CalendarDate, form: Intl.DateTimeFormatOptions): string =>
    new Intl.DateTimeFormat(locale, form).format(date.toDate(zone));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto p-3 max-lg:overflow-visible">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="button"
          aria-label={speak`The month before`}
          onClick={() => setMonth(month.subtract({ months: 1 }))}
        >
          <ChevronLeft size={16} aria-hidden />
        </button>
        <h2 className="min-w-40 text-center text-[17px]" aria-live="polite">
          {named(month, { month: 'long', year: 'numeric', timeZone: zone })}
        </h2>
        <button
          type="button"
          className="button"
          aria-label={speak`The month after`}
          onClick={() => setMonth(month.add({ months: 1 }))}
        >
          <ChevronRight size={16} aria-hidden />
        </button>
        {!isSameMonth(month, now) && (
          <button
            type="button"
            className="button"
            onClick={() => setMonth(startOfMonth(now))}
          >{speak`This month`}</button>
        )}
        <span className="quiet ml-auto" role="status">
          {records.isError
            ? speak`These could not be fetched. Try again in a moment.`
            : speak`${records.isWhole ? '' : speak`more than `}${counted(rows.length, 'record')} by ${day.label}`}
        </span>
      </div>
      <ol
        aria-label={named(month, { month: 'long', year: 'numeric', timeZone: zone })}
        className="grid grid-cols-7 gap-px bg-slate-200 max-sm:grid-cols-1"
      >
        {days.slice(0, 7).map((date) => (
          <li
            key={`head ${date}`}
            aria-hidden
            className="bg-slate-50 px-1.5 py-1 text-[13px] font-semibold text-slate-600 max-sm:hidden"
          >
            {named(date, { weekday: 'short', timeZone: zone })}
          </li>
        ))}
        {days.map((date) => {
          const iso = date.toString();
          const all = byDay.get(iso) ?? [];
          const shown = isAll === iso ? all : all.slice(0, MOST_A_DAY);
          const isHere = isSameMonth(date, month);
          return (
            <li
              key={iso}
              aria-label={named(date, { weekday: 'long', day: 'numeric', month: 'long', timeZone: zone })}
              className={`min-h-24 p-1.5 text-[13px] ${isHere ? 'bg-white' : 'bg-slate-50'} ${!isHere || all.length === 0 ? 'max-sm:hidden' : ''} max-sm:min-h-0`}
            >
              <p
                className={`mb-1 font-mono ${iso === now.toString() ? 'inline-block rounded bg-slate-900 px-1.5 text-white' : 'text-slate-600'}`}
              >
                <span className="sm:hidden">{named(date, { weekday: 'short', timeZone: zone })} </span>
                {date.day}
              </p>
              <ul className="grid gap-0.5">
                {shown.map((row) => (
                  <li key={row.id}>
                    <button
                      type="button"
                      title={titleOf(table, row) || row.number}
                      className={`w-full truncate rounded px-1 text-left ${inHand === row.id ? 'bg-lichen text-white' : 'bg-lichen-soft hover:underline'}`}
                      onClick={() => onRecord(row.id)}
                    >
                      {titleOf(table, row) || row.number}
                    </button>
                  </li>
                ))}
              </ul>
              {all.length > shown.length && (
                <button
                  type="button"
                  className="button-plain text-[13px]!"
                  onClick={() => setAll(iso)}
                >{speak`${all.length - shown.length} more`}</button>
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}

const MOST_IN_MONTH = 1_000;

/** The whole weeks that a month lies in. */
function daysOf(month: CalendarDate, locale: string): CalendarDate[] {
  const first = startOfWeek(month, locale, weekBegins());
  const last = endOfMonth(month);
  const length = last.compare(first) + 7 - getDayOfWeek(last, locale, weekBegins());
  return Array.from({ length }, (_, i) => first.add({ days: i }));
}

/** Only the records of one month, in the order of their days. */
function inMonth(query: Query, { text, column }: Place, month: CalendarDate): Query {
  const literal = (date: CalendarDate): string =>
    column.kind === 'date' ? `date("${date.toString()}")` : `date and time("${date.toString()}T00:00:00")`;
  const within = `${text} >= ${literal(month)} and ${text} < ${literal(month.add({ months: 1 }))}`;
  return { ...query, where: bothFeel(query.where, within), sort: text };
}
