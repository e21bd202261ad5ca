import { CalendarDays, ChevronDown, ChevronsUpDown } from './icons';
import { speak } from '../../core/wording/speak';

/** What controls look like until they are there. Nothing can be typed in them, for nobody would take it up. */
export function LookupLikeness({
  id,
  label,
  text,
  placeholder,
  bare,
}: {
  readonly id: string;
  readonly label: string;
  readonly text: string;
  readonly placeholder: string;
  readonly bare: boolean;
}) {
  return (
    <div className={bare ? 'flex items-center' : 'box flex items-center p-0'}>
      <input
        id={id}
        data-likeness
        readOnly
        aria-label={label}
        value={text}
        placeholder={placeholder}
        className={`min-w-0 flex-1 rounded-md bg-transparent ${bare ? 'py-1' : 'px-2.5 py-1.5'} placeholder:text-slate-500`}
      />
      <span className="px-2 text-slate-700">
        <ChevronsUpDown size={15} aria-hidden />
      </span>
    </div>
  );
}

export function SelectLikeness({
  id,
  label,
  text,
}: {
  readonly id: string;
  readonly label: string;
  readonly text: string;
}) {
  return (
    <button
      type="button"
      id={id}
      data-likeness
      aria-label={label}
      className="box flex items-center justify-between gap-2 text-left"
    >
      <span className={`truncate ${text === '' ? 'text-slate-600' : ''}`}>{text || speak`Choose`}</span>
      <ChevronDown size={13} aria-hidden className="shrink-0 text-slate-600" />
    </button>
  );
}

export const CalendarLikeness = () => (
  <span className="p-1 px-2 text-slate-700">
    <CalendarDays size={16} aria-hidden />
  </span>
);
