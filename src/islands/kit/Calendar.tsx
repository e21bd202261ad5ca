import { lazy, Suspense, useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { CalendarDays } from './icons';
import { speak } from '../../core/wording/speak';

/** Fetched when it is opened: most days are typed. */
const DayPicker = lazy(() => import('./DayPicker'));

interface Props {
  readonly label: string;
  readonly day: string | null;
  readonly onPick: (day: string) => void;
}

/** A day picked from a month, behind a button. */
export function Calendar({ label, day, onPick }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <DialogTrigger isOpen={open} onOpenChange={setOpen}>
      <Button aria-label={speak`${label}: open the calendar`} className="rounded p-1 px-2 text-slate-700">
        <CalendarDays size={16} aria-hidden />
      </Button>
      <Popover className="popover p-3">
        <Dialog aria-label={speak`${label}: calendar`} className="outline-none">
          <Suspense fallback={<p className="h-72 w-64" />}>
            <DayPicker
              label={label}
              day={day}
              onPick={(picked) => {
                onPick(picked);
                setOpen(false);
              }}
            />
          </Suspense>
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}
