import { daysOff, type NamedDay } from '../../core/closed-days';
import { weekday } from '../../core/expression/moment';
import { showDate } from '../../core/formats/days';
import type { ClosedDays } from '../../core/workspace';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly days: readonly NamedDay[];
  readonly closed: readonly ClosedDays[];
  readonly workdays: readonly number[];
  /** ISO date. */
  readonly today: string;
}

const SHOWN = 14;

/** The next days nobody works on, besides those of every week. */
export function DaysOff({ days, closed, workdays, today }: Props) {
  const ahead = daysOff(days, closed).filter(({ day }) => day >= today);
  return (
    <section className="margin-part first" aria-labelledby="days-off">
      <h2 id="days-off" className="margin-title">{speak`Days nobody works on`}</h2>
      {ahead.length === 0 && <p className="text-[14px]">{speak`None but those of every week.`}</p>}
      <ul className="text-[14px]">
        {ahead.slice(0, SHOWN).map(({ day, name }) => (
          <li key={day} className="mb-1 grid grid-cols-[9.5rem_minmax(0,1fr)] gap-2">
            <span className="tabular">{showDate(day)}</span>
            <span className={workdays.includes(weekday(day)) ? '' : 'quiet'}>
              {name === '' ? speak`Closed` : name}
            </span>
          </li>
        ))}
      </ul>
      {ahead.length > SHOWN && (
        <p className="quiet mt-1">{speak`and ${ahead.length - SHOWN} more in these two years`}</p>
      )}
    </section>
  );
}
