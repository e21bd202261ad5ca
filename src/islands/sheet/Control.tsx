import { useState } from 'react';
import { retyped, shown } from '../../core/form/cells';
import { dayInDigits } from '../../core/formats/days';
import { asKept, asTyped } from '../../core/formats/typed';
import { DateInput } from '../kit/DateInput';
import { Later } from '../kit/Awake';
import { SelectLikeness } from '../kit/likenesses';
import type { ControlProps } from './control-props';
import { heavy } from './heavy';
import { controlId } from './sheet-model';
import { ChoicesControl, ConfirmationControl } from './Ticks';
import { FilesControl } from './FilesControl';
import { Lookups } from './Lookups';
import { speak } from '../../core/wording/speak';

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
    case 'date-time':
    case 'whole':
    case 'decimal':
    case 'money':
      return <FormattedInput {...props} />;
    case 'time':
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
                placeholder={speak`Choose`}
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
  'e-mail': { inputMode: 'email', autoComplete: 'off' },
  'web-address': { inputMode: 'url', placeholder: 'https://' },
  phone: { inputMode: 'tel', autoComplete: 'off' },
} as const;

/** A day of which its order is seen. */
const SAMPLE = '2026-11-23';

const textOf = (raw: unknown): string => (typeof raw === 'string' ? raw : '');
const boxed = (bare: boolean): string => (bare ? 'w-full rounded bg-transparent px-1 py-1' : 'box');

/**
 * Numbers and moments are typed as they are written here, and kept as they are everywhere. While one is typed
 * it stays as it is; once left it reads as it is kept.
 */
function FormattedInput({
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
  const [typing, setTyping] = useState<string | null>(null);
  const isNumber = question.kind !== 'date-time';
  const leave = () => {
    setTyping(null);
    const value = sheet.value(place);
    const written = value === null ? null : retyped(question, value);
    if (written !== null && written !== sheet.raw(place)) {
      sheet.set(place, written);
      onChange();
    }
    onTouch();
  };
  const change = (next: string) => {
    setTyping(next);
    sheet.set(place, asKept(question.kind, next));
    onChange();
  };
  return (
    <input
      id={controlId(place)}
      {...(isNumber ? { inputMode: 'decimal' as const } : { placeholder: `${dayInDigits(SAMPLE)} 14:30` })}
      className={`tabular ${isNumber ? 'text-right' : ''} ${bare ? boxed(true) : 'box max-w-56'}`}
      aria-label={name}
      aria-invalid={invalid}
      aria-describedby={describedBy}
      value={typing ?? asTyped(question.kind, textOf(sheet.raw(place)))}
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
          {one ? speak`Yes` : speak`No`}
        </label>
      ))}
      {typeof value === 'boolean' && (
        <button
          type="button"
          className="button-plain text-[13px]"
          onClick={() => onChange(null)}
          aria-label={speak`${name}: leave open`}
        >{speak`leave open`}</button>
      )}
    </div>
  );
}
