import { CalendarDays } from './icons';
import { lazy, Suspense, useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { readDay } from '../../core/table/kinds/date';

/** Fetched when it is opened: most days are typed. */
const DayPicker = lazy(() => import('./DayPicker'));

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

/** Day first, as it is typed here. */
const slashed = (iso: string): string => iso.split('-').reverse().join('/');

/** A day, typed in any usual way or picked from a calendar. What is no day of the calendar stays as it was typed, for nobody else knows which was meant. */
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
  const [open, setOpen] = useState(false);
  const known = value === null ? null : readDay(value);
  const leave = () => {
    setTyping(null);
    if (known !== null && known !== value) onChange(known);
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
        placeholder="dd/mm/yyyy"
        value={typing ?? (known === null ? (value ?? '') : slashed(known))}
        onChange={(event) => {
          setTyping(event.target.value);
          onChange(event.target.value === '' ? null : event.target.value);
        }}
        onBlur={leave}
      />
      <DialogTrigger isOpen={open} onOpenChange={setOpen}>
        <Button aria-label={`${label}: open the calendar`} className="rounded p-1 px-2 text-slate-700">
          <CalendarDays size={16} aria-hidden />
        </Button>
        <Popover className="popover p-3">
          <Dialog aria-label={`${label}: calendar`} className="outline-none">
            <Suspense fallback={<p className="h-72 w-64" />}>
              <DayPicker
                label={label}
                day={known}
                onPick={(day) => {
                  onChange(day);
                  setTyping(null);
                  setOpen(false);
                }}
              />
            </Suspense>
          </Dialog>
        </Popover>
      </DialogTrigger>
    </div>
  );
}
