import { parseDate } from '@internationalized/date';
import { CalendarDays, ChevronLeft, ChevronRight } from 'lucide-react';
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  DateInput as Segments,
  DatePicker,
  DateSegment,
  Dialog,
  Group,
  Heading,
  Popover,
} from 'react-aria-components';
import { plainDate } from '../../core/expression/moment';

interface Props {
  readonly label: string;
  readonly value: string | null;
  readonly onChange: (iso: string | null) => void;
  readonly onBlur?: () => void;
  readonly id?: string;
  readonly invalid?: boolean;
  readonly describedBy?: string | undefined;
  readonly bare?: boolean;
}

/** A day, typed part by part or picked from a calendar; kept as ISO text. */
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
  const known = value === null ? null : plainDate(value);
  return (
    <DatePicker
      aria-label={label}
      value={known === null ? null : parseDate(known)}
      onChange={(date) => onChange(date?.toString() ?? null)}
      isInvalid={invalid}
      shouldForceLeadingZeros={false}
      {...(onBlur && { onBlur })}
      {...(describedBy && { 'aria-describedby': describedBy })}
    >
      <Group
        {...(id !== undefined && { id })}
        className={
          bare
            ? 'flex items-center'
            : `box flex max-w-56 items-center justify-between ${invalid ? 'wrong' : ''}`
        }
      >
        <Segments className="tabular flex">
          {(segment) => (
            <DateSegment
              segment={segment}
              className="rounded px-0.5 outline-none data-[focused]:bg-lichen data-[focused]:text-white data-[placeholder]:text-slate-600"
            />
          )}
        </Segments>
        <Button aria-label={`${label}: open the calendar`} className="rounded p-0.5 text-slate-700">
          <CalendarDays size={16} aria-hidden />
        </Button>
      </Group>
      <Popover className="popover p-3">
        <Dialog className="outline-none">
          <Calendar>
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
        </Dialog>
      </Popover>
    </DatePicker>
  );
}
