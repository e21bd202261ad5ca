import { retyped, shown } from '../../core/form/cells';
import { DateInput } from '../kit/DateInput';
import { Later } from '../kit/Awake';
import { SelectLikeness } from '../kit/likenesses';
import type { ControlProps } from './control-props';
import { heavy } from './heavy';
import { controlId } from './sheet-model';
import { ChoicesControl, ConfirmationControl } from './Ticks';
import { FilesControl } from './FilesControl';
import { Lookups } from './Lookups';

/** The control of one answer. */
export function Control(props: ControlProps) {
  const { question, place, sheet, invalid, describedBy, onChange, onTouch, bare = false, name } = props;
  const raw = sheet.raw(place);
  const id = controlId(place);
  const set = (next: string | boolean | null) => {
    sheet.set(place, next);
    onChange();
  };
  const common = { id, invalid, describedBy, onBlur: onTouch };
  switch (question.kind) {
    case 'text':
      // A text with several lines would lose them in a box of one.
      return question.long || textOf(raw).includes('\n') ? (
        <textarea
          id={id}
          rows={3}
          className="box"
          aria-label={name}
          aria-invalid={invalid}
          aria-describedby={describedBy}
          value={textOf(raw)}
          onChange={(event) => set(event.target.value)}
          onBlur={onTouch}
        />
      ) : (
        <input
          id={id}
          className={boxed(bare)}
          aria-label={name}
          aria-invalid={invalid}
          aria-describedby={describedBy}
          value={textOf(raw)}
          onChange={(event) => set(event.target.value)}
          onBlur={onTouch}
        />
      );
    case 'time':
    case 'date-time':
    case 'e-mail':
    case 'web-address':
    case 'phone':
      return (
        <input
          id={id}
          {...typed[question.kind]}
          className={`${boxed(bare)} ${bare || question.kind === 'e-mail' || question.kind === 'web-address' ? '' : 'max-w-56'}`}
          aria-label={name}
          aria-invalid={invalid}
          aria-describedby={describedBy}
          value={textOf(raw)}
          onChange={(event) => set(event.target.value)}
          onBlur={onTouch}
        />
      );
    case 'whole':
    case 'decimal':
    case 'money':
      return <NumberInput {...props} />;
    case 'date':
      return (
        <DateInput
          {...common}
          label={name}
          bare={bare}
          value={typeof raw === 'string' ? raw : null}
          onChange={set}
        />
      );
    case 'choice':
      return (
        <Later likeness={<SelectLikeness id={id} label={name} text={shown(question, sheet.value(place))} />}>
          {() =>
            heavy.Select !== null && (
              <heavy.Select
                {...common}
                look="box"
                label={name}
                value={typeof raw === 'string' ? raw : null}
                choices={question.choices
                  .filter(({ code, retired }) => retired !== true || code === raw)
                  .map(({ code, label }) => ({ value: code, label }))}
                onChange={set}
                placeholder="Choose"
              />
            )
          }
        </Later>
      );
    case 'choices':
      return <ChoicesControl {...props} question={question} set={set} />;
    case 'files':
      return <FilesControl {...props} question={question} />;
    case 'confirmation':
      return <ConfirmationControl {...props} question={question} set={set} />;
    case 'yes-no':
      return <YesNo id={id} name={name} value={raw} onChange={set} onTouch={onTouch} invalid={invalid} />;
    case 'lookup':
      return <Lookups {...props} question={question} />;
  }
}

/**
 * What a telephone's keyboard offers, and how it is written. The text is read by our own rules: the browser's
 * own kinds would refuse in their own words.
 */
const typed = {
  time: { placeholder: '14:30' },
  'date-time': { placeholder: '2026-11-23 14:30' },
  'e-mail': { inputMode: 'email', autoComplete: 'off' },
  'web-address': { inputMode: 'url', placeholder: 'https://' },
  phone: { inputMode: 'tel', autoComplete: 'off' },
} as const;

const textOf = (raw: unknown): string => (typeof raw === 'string' ? raw : '');
const boxed = (bare: boolean): string => (bare ? 'w-full rounded bg-transparent px-1 py-1' : 'box');

/** Numbers are typed as text and read back in the form they will be kept in once left. */
function NumberInput({
  question,
  place,
  sheet,
  invalid,
  describedBy,
  onChange,
  onTouch,
  bare = false,
  name,
}: ControlProps) {
  const leave = () => {
    const value = sheet.value(place);
    const written = value === null ? null : retyped(question, value);
    if (written !== null && written !== sheet.raw(place)) {
      sheet.set(place, written);
      onChange();
    }
    onTouch();
  };
  const change = (next: string) => {
    sheet.set(place, next);
    onChange();
  };
  return (
    <input
      id={controlId(place)}
      inputMode="decimal"
      className={`tabular text-right ${bare ? boxed(true) : 'box max-w-56'}`}
      aria-label={name}
      aria-invalid={invalid}
      aria-describedby={describedBy}
      value={textOf(sheet.raw(place))}
      onChange={(event) => change(event.target.value)}
      onBlur={leave}
    />
  );
}

function YesNo({
  id,
  name,
  value,
  onChange,
  onTouch,
  invalid,
}: {
  id: string;
  name: string;
  value: unknown;
  onChange: (value: boolean | null) => void;
  onTouch: () => void;
  invalid: boolean;
}) {
  return (
    <div
      id={id}
      role="radiogroup"
      aria-label={name}
      aria-invalid={invalid}
      className="flex gap-5 py-1"
      onBlur={onTouch}
    >
      {[true, false].map((one) => (
        <label key={String(one)} className="flex items-center gap-1.5">
          <input
            type="radio"
            name={id}
            checked={value === one}
            onChange={() => onChange(one)}
            className="size-4 accent-lichen"
          />
          {one ? 'Yes' : 'No'}
        </label>
      ))}
      {typeof value === 'boolean' && (
        <button
          type="button"
          className="button-plain text-[13px]"
          onClick={() => onChange(null)}
          aria-label={`${name}: leave open`}
        >
          leave open
        </button>
      )}
    </div>
  );
}
