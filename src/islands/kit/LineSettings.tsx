import { useState } from 'react';
import { ArrowDown, ArrowUp, Copy, Trash2 } from './icons';
import { Select } from './Select';
import { NumberWord, Sentence, Word } from './Sentence';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

/** The settings that a question of a form and a column of a table have in common. */

export function LabelBox({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
}) {
  return (
    <textarea
      aria-label={label}
      rows={1}
      className="field-sizing-content w-full resize-none rounded border border-slate-300 bg-white px-1.5 py-0.5 font-semibold"
      value={value}
      maxLength={200}
      onChange={(event) => onChange(event.target.value.replaceAll('\n', ' '))}
    />
  );
}

/** Half a key would be refused at every letter, so it is taken when it is left. */
export function KeyWord({
  label,
  value,
  onLeave,
}: {
  readonly label: string;
  readonly value: string;
  readonly onLeave: (typed: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const leave = () => {
    if (typed !== null && typed.trim() !== '') onLeave(typed);
    setTyped(null);
  };
  return (
    <span onBlur={leave}>
      <Word mono label={label} value={typed ?? value} onChange={setTyped} />
    </span>
  );
}

export function RequiredPick({
  required,
  onChange,
}: {
  readonly required: boolean;
  readonly onChange: (required: boolean) => void;
}) {
  return (
    <Select
      label={speak`Must it be filled`}
      value={required ? 'yes' : 'no'}
      choices={[
        { value: 'no', label: speak`may stay empty` },
        { value: 'yes', label: speak`must be filled` },
      ]}
      onChange={(value) => onChange(value === 'yes')}
    />
  );
}

interface Measure {
  /** Null where the kind has none, or its usual ones. */
  readonly decimals: number | null;
  readonly unit: string;
}

interface MeasureProps {
  readonly measure: Measure;
  readonly onChange: (part: { decimals?: number; unit?: string }) => void;
}

/** In which unit a whole number is counted. */
export const InUnit = ({ measure, onChange }: MeasureProps) => (
  <Sentence>{speakIn`in ${(<UnitWord measure={measure} onChange={onChange} />)}`}</Sentence>
);

/** With how many decimals, and in which unit. */
export const WithDecimals = ({ measure, onChange }: MeasureProps) => (
  <Sentence>{speakIn`with ${(<DecimalsWord measure={measure} most={8} onChange={onChange} />)} decimals, in ${(<UnitWord measure={measure} onChange={onChange} />)}`}</Sentence>
);

/** With how many decimals, and in which currency (ISO 4217). */
export const InCurrency = ({ measure, onChange }: MeasureProps) => (
  <Sentence>{speakIn`with ${(<DecimalsWord measure={measure} most={4} onChange={onChange} />)} decimals, in ${(
    <Word
      label={speak`Currency`}
      value={measure.unit}
      placeholder={speak`currency`}
      onChange={(unit) => onChange({ unit: unit.toUpperCase().slice(0, 3) })}
    />
  )}`}</Sentence>
);

const UnitWord = ({ measure, onChange }: MeasureProps) => (
  <Word
    label={speak`Unit`}
    value={measure.unit}
    placeholder={speak`no unit`}
    onChange={(unit) => onChange({ unit: unit.slice(0, 40) })}
  />
);

const DecimalsWord = ({ measure, most, onChange }: MeasureProps & { readonly most: number }) => (
  <NumberWord
    label={speak`Decimals`}
    value={measure.decimals ?? 2}
    most={most}
    onChange={(decimals) => onChange({ decimals })}
  />
);

/** Puts a line elsewhere, or takes it away. */
export function LineMoves({
  removal,
  onMove,
  onDuplicate,
  onRemove,
}: {
  /** The words of the button that takes it away; null where it has to stay. */
  readonly removal: string | null;
  /** Null where it has no other place to go to. */
  readonly onMove: ((by: 1 | -1) => void) | null;
  /** Left out, there can be no second one. */
  readonly onDuplicate?: () => void;
  readonly onRemove: () => void;
}) {
  return (
    <div className="mt-2 flex gap-2">
      {onMove !== null && (
        <>
          <button type="button" className="button" aria-label={speak`Move it up`} onClick={() => onMove(-1)}>
            <ArrowUp size={15} aria-hidden />
          </button>
          <button type="button" className="button" aria-label={speak`Move it down`} onClick={() => onMove(1)}>
            <ArrowDown size={15} aria-hidden />
          </button>
        </>
      )}
      {onDuplicate !== undefined && (
        <button type="button" className="button" aria-label={speak`Make a second one`} onClick={onDuplicate}>
          <Copy size={15} aria-hidden />
        </button>
      )}
      {removal !== null && (
        <button type="button" className="button button-stop" onClick={onRemove}>
          <Trash2 size={15} aria-hidden />
          {removal}
        </button>
      )}
    </div>
  );
}
