import { ArrowDown, ArrowUp, EyeOff, RotateCcw, X } from './icons';
import type { ReactNode } from 'react';
import { addChoices } from '../../core/table/edit';
import type { ColumnChoice } from '../../core/table/model';
import { NextInput } from './NextInput';
import { Word } from './Sentence';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly choices: readonly ColumnChoice[];
  /** Codes that are in use already: they stay as they are, and such a choice can be retired. */
  readonly there: ReadonlySet<string>;
  /** Of those, the ones that can be taken out none the less. */
  readonly removable?: ReadonlySet<string>;
  readonly onChange: (choices: readonly ColumnChoice[]) => void;
  /** What stands beside a choice, by its code; with it the choices stand as lines of a sheet and can be moved. */
  readonly beside?: (code: string) => ReactNode;
}

/** Choices: the words people see and the code that is stored. */
export function ChoiceEditor({ choices, there, removable = new Set(), onChange, beside }: Props) {
  const set = (at: number, part: Partial<ColumnChoice>) =>
    onChange(choices.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const wide = beside !== undefined;
  return (
    <>
      <ul className={wide ? '' : 'grid gap-1'}>
        {choices.map((one, i) => {
          const words = (
            <span className={one.retired === true ? 'text-slate-600 line-through' : ''}>
              <Word
                label={speak`Words of choice ${i + 1}`}
                value={one.label}
                onChange={(label) => set(i, { label })}
              />
            </span>
          );
          const code = there.has(one.code) ? (
            <code className="font-mono text-[13px] break-all text-slate-600">{one.code}</code>
          ) : (
            <Word
              mono
              label={speak`Code of choice ${i + 1}`}
              value={one.code}
              onChange={(next) => set(i, { code: next.slice(0, 100) })}
            />
          );
          const retire = there.has(one.code) && (
            <button
              type="button"
              className="button-plain text-[13px]"
              onClick={() => set(i, { retired: one.retired === true ? undefined : true })}
            >
              {one.retired === true ? (
                <>
                  <RotateCcw size={13} aria-hidden />
                  {speak`Offer again`}
                </>
              ) : (
                <>
                  <EyeOff size={13} aria-hidden />
                  {speak`Retire`}
                </>
              )}
              <span className="sr-only"> {one.label}</span>
            </button>
          );
          const takeOut = (!there.has(one.code) || removable.has(one.code)) && (
            <button
              type="button"
              className="button-plain"
              aria-label={speak`Take ${one.label} out`}
              onClick={() => onChange(choices.filter((_, at) => at !== i))}
            >
              <X size={14} aria-hidden />
            </button>
          );
          if (!wide)
            return (
              <li key={i} className="flex items-center gap-1.5">
                {words}
                {code}
                <span className="ml-auto flex items-center">
                  {retire}
                  {takeOut}
                </span>
              </li>
            );
          return (
            <li key={i} className="line items-center py-2">
              <span className="gutter pt-0">{i + 1}</span>
              <div className="grid min-w-0 grid-cols-[minmax(0,1fr)_minmax(0,10rem)_9.5rem_12.5rem] items-center gap-x-3 max-lg:grid-cols-[minmax(0,1fr)_auto] max-sm:grid-cols-1">
                <span className="flex min-w-0 items-center gap-2">
                  {words}
                  {one.retired === true && <span className="tag bg-slate-100 py-0">{speak`retired`}</span>}
                </span>
                {code}
                {beside(one.code)}
                <span className="flex items-center justify-end gap-1 max-sm:justify-start">
                  <Moves choices={choices} at={i} onChange={onChange} />
                  <span className="w-26">{retire}</span>
                  <span className="w-6">{takeOut}</span>
                </span>
              </div>
            </li>
          );
        })}
      </ul>
      <div className={wide ? 'border-b border-slate-200 py-3 pr-5 pl-[46px]' : 'mt-1.5'}>
        <NextInput
          label={speak`Next choice`}
          placeholder={speak`Type the next choice, or paste several`}
          onAdd={(text) => onChange(addChoices(choices, text.replaceAll('\t', '\n')))}
        />
      </div>
    </>
  );
}

function Moves({
  choices,
  at,
  onChange,
}: {
  choices: readonly ColumnChoice[];
  at: number;
  onChange: Props['onChange'];
}) {
  const label = choices[at]?.label ?? '';
  const move = (by: 1 | -1) => {
    const moved = [...choices];
    const [one] = moved.splice(at, 1);
    if (one !== undefined) moved.splice(at + by, 0, one);
    onChange(moved);
  };
  return (
    <>
      <button
        type="button"
        className="button-plain"
        aria-label={speak`Move ${label} up`}
        disabled={at === 0}
        onClick={() => move(-1)}
      >
        <ArrowUp size={14} aria-hidden />
      </button>
      <button
        type="button"
        className="button-plain"
        aria-label={speak`Move ${label} down`}
        disabled={at === choices.length - 1}
        onClick={() => move(1)}
      >
        <ArrowDown size={14} aria-hidden />
      </button>
    </>
  );
}
