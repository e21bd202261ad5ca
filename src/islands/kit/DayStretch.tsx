import { DateInput } from './DateInput';

type End = 'from' | 'until';

interface Props {
  /** How the first day and the last one are called. */
  readonly labels: Readonly<Record<End, string>>;
  /** ISO dates, or what was typed; empty for none yet. */
  readonly days: Readonly<Record<End, string>>;
  readonly isWrong: (end: End) => boolean;
  readonly set: (part: Partial<Record<End, string>>) => void;
}

/** Whether a day was typed to its end. */
export const isDay = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text);

/** Days in a row, by the first and the last of them. */
export const DayStretch = ({ labels, days, isWrong, set }: Props) => (
  <div className="grid grid-cols-2 gap-2 max-sm:grid-cols-1">
    {(['from', 'until'] as const).map((end) => (
      <div key={end} className="text-[14px]">
        <span className="font-semibold" aria-hidden>
          {labels[end]}
        </span>
        <DateInput
          label={labels[end]}
          value={days[end] === '' ? null : days[end]}
          invalid={isWrong(end)}
          onChange={(text) => set({ [end]: text ?? '' })}
        />
      </div>
    ))}
  </div>
);
