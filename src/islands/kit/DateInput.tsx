import { lazy, useState } from 'react';
import { Later } from './Awake';
import { CalendarLikeness } from './likenesses';
import { dayInDigits, dayPattern, readDay, typedDay } from '../../core/formats/days';

const Calendar = lazy(() => import('./Calendar').then((module) => ({ default: module.Calendar })));

interface Props {
  readonly label: string;
  /** As it was typed, or as ISO text. */
  readonly value: string | null;
  readonly onChange: (text: string | null) => void;
  readonly onBlur?: () => void;
  readonly id?: string;
  readonly invalid?: boolean;
  readonly describedBy?: string | undefined;
  readonly bare?: boolean;
}

/**
 * A day, typed in any usual way or picked from a calendar. What is no day of the calendar stays as it was
 * typed, for nobody else knows which was meant.
 */
export function DateInput({
  label,
  value,
  onChange,
  onBlur,
  id,
  invalid = false,
  describedBy,
  bare = false,
}: Props) {
  const [typing, setTyping] = useState<string | null>(null);
  const known = value === null ? null : readDay(value);
  const leave = () => {
    setTyping(null);
    onBlur?.();
  };
  return (
    <div
      className={bare ? 'flex items-center' : `box flex max-w-56 items-center p-0 ${invalid ? 'wrong' : ''}`}
    >
      <input
        {...(id !== undefined && { id })}
        className={`tabular min-w-0 flex-1 rounded-md bg-transparent ${bare ? 'px-1 py-1' : 'px-2.5 py-1.5'} placeholder:text-slate-500`}
        aria-label={label}
        aria-invalid={invalid}
        aria-describedby={describedBy}
        autoComplete="off"
        placeholder={dayPattern()}
        value={typing ?? (known === null ? (value ?? '') : dayInDigits(known))}
        onChange={(event) => {
          const text = event.target.value;
          setTyping(text);
          // A day is known as soon as it can be read, in the order it is typed in here.
          onChange(text === '' ? null : (typedDay(text) ?? text));
        }}
        onBlur={leave}
      />
      <Later likeness={<CalendarLikeness />}>
        {() => (
          <Calendar
            label={label}
            day={known}
            onPick={(day) => {
              onChange(day);
              setTyping(null);
            }}
          />
        )}
      </Later>
    </div>
  );
}
