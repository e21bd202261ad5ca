import { parseDate } from '@internationalized/date';
import { Button, Calendar, CalendarCell, CalendarGrid, Heading } from 'react-aria-components';
import { weekBegins } from '../../core/formats/formats';
import { ChevronLeft, ChevronRight } from './icons';

interface Props {
  readonly label: string;
  /** As ISO text. */
  readonly day: string | null;
  readonly onPick: (day: string) => void;
}

/** A month at a time, to pick a day from. */
export default function DayPicker({ label, day, onPick }: Props) {
  return (
    <Calendar
      // oxlint-disable-next-line jsx-a11y/no-autofocus -- The calendar comes after its dialog, which has nothing else to focus.
      autoFocus
      aria-label={label}
      firstDayOfWeek={weekBegins()}
      value={day === null ? null : parseDate(day)}
      onChange={(date) => {
        onPick(date.toString());
      }}
    >
      <header className="mb-2 flex items-center justify-between gap-2">
        <Button slot="previous" className="button px-1.5">
          <ChevronLeft size={14} aria-hidden />
        </Button>
        <Heading className="font-sans text-[14px]" />
        <Button slot="next" className="button px-1.5">
          <ChevronRight size={14} aria-hidden />
        </Button>
      </header>
      <CalendarGrid className="text-center text-[13px]">
        {(date) => (
          <CalendarCell
            date={date}
            className="m-0.5 grid size-8 cursor-pointer place-items-center rounded data-[hovered]:bg-slate-100 data-[outside-month]:invisible data-[selected]:bg-lichen data-[selected]:text-white"
          />
        )}
      </CalendarGrid>
    </Calendar>
  );
}
