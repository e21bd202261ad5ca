import { createContext, useContext, useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { memberWords, type Pick, type PickBy } from '../../core/check/pick-text';
import type { Filterable } from '../../core/record/filter';
import { offered } from '../../core/table/choice-list';
import { ChevronDown, Plus } from './icons';
import { Select } from './Select';
import { aboutOf, comparisonsOf, feelOf, presetOf, presetsFor, rightOf, wordsOf } from './filter-words';
import { speak } from '../../core/wording/speak';
import { dayInDigits } from '../../core/formats/days';
import { writtenNumber } from '../../core/formats/numbers';

/** What is done with a condition once it is said. */
export const ConditionAction = createContext<string | null>(null);

interface ConditionProps {
  readonly filterables: readonly Filterable[];
  /** Null for a new one. */
  readonly pick: Pick | null;
  readonly words: string;
  readonly onDone: (pick: Pick) => void;
  readonly onDrop?: () => void;
  /** Set where another condition may be put beside it. */
  readonly onGroup?: { readonly words: string; readonly begin: () => void } | undefined;
  /** Whether it is open from the first. */
  readonly isOpen?: boolean;
}

/** One condition, that opens to be picked anew; or the way to one more. */
export function Condition({
  filterables,
  pick,
  words,
  onDone,
  onDrop,
  onGroup,
  isOpen = false,
}: ConditionProps) {
  return (
    <DialogTrigger defaultOpen={isOpen}>
      <Button className={pick === null ? 'button-plain text-lichen-deep!' : 'pick'}>
        {pick === null && <Plus size={14} aria-hidden />}
        {words}
        {pick !== null && <ChevronDown size={14} aria-hidden className="shrink-0" />}
      </Button>
      <Popover className="popover max-w-[92vw] overflow-visible p-3!">
        <Dialog aria-label={speak`Condition`} className="outline-none">
          {({ close }) => (
            <Editor
              filterables={filterables}
              pick={pick}
              onDone={(next) => {
                onDone(next);
                close();
              }}
              {...(onGroup && {
                onGroup: {
                  words: onGroup.words,
                  begin: () => {
                    close();
                    onGroup.begin();
                  },
                },
              })}
              {...(onDrop && {
                onDrop: () => {
                  onDrop();
                  close();
                },
              })}
            />
          )}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

function Editor({ filterables, pick, onDone, onDrop, onGroup }: Omit<ConditionProps, 'words' | 'isOpen'>) {
  const [left, setLeft] = useState(
    (pick && aboutOf(pick)) ??
      (filterables.find(({ kind }) => kind !== 'reference') ?? filterables[0])?.text ??
      '',
  );
  const of = filterables.find(({ text }) => text === left);
  const [by, setBy] = useState<PickBy>(pick?.by ?? '=');
  const [texts, setTexts] = useState<readonly string[]>(
    of === undefined || pick === null ? [''] : pick.right.map((one) => asTyped(of, one)),
  );
  const action = useContext(ConditionAction) ?? speak`Show these`;
  const [isWrong, setWrong] = useState(false);
  const [preset, setPreset] = useState(
    (of !== undefined && pick !== null && presetOf(of, pick)?.words) || null,
  );
  if (of === undefined) return null;
  const kinds = comparisonsOf(of);
  const known = kinds.some((one) => one.by === by) || by === 'one-of' || by === 'none-of' || by === 'between';
  const how = known ? by : (kinds[0]?.by ?? 'filled');
  const fixed = rightOf(of, how);
  const bare = fixed !== null;
  const presets = presetsFor(of);
  const done = () => {
    const chosen = presets.find(({ words }) => words === preset);
    if (chosen !== undefined) return onDone(chosen.pick);
    const right = fixed ?? texts.filter((text) => text.trim() !== '').map((text) => feelOf(of, text));
    if (right.some((one) => one === null) || (!bare && right.length === 0)) return setWrong(true);
    onDone({ left, by: how, right: right.flatMap((one) => (one === null ? [] : [one])) });
  };
  return (
    <form
      className="grid w-72 max-w-full gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        done();
      }}
    >
      <Select
        look="box"
        label={speak`Column`}
        value={left}
        choices={filterables.map(({ text, label }) => ({ value: text, label }))}
        onChange={(next) => {
          setLeft(next);
          setBy('=');
          setTexts(['']);
          setPreset(null);
        }}
      />
      <Select
        look="box"
        label={speak`Comparison`}
        value={preset ?? how}
        choices={[
          ...kinds.map((one) => ({
            value: one.by,
            label: memberWords(one.by) ?? speak`is ${one.words}`,
          })),
          ...(kinds.some((one) => one.by === how)
            ? []
            : [{ value: how, label: speak`is ${how === 'between' ? speak`between` : speak`one of`}` }]),
          ...presets.map(({ words }) => ({ value: words, label: speak`is ${words}` })),
        ]}
        onChange={(next) => {
          const isPreset = presets.some(({ words }) => words === next);
          setPreset(isPreset ? next : null);
          if (!isPreset) setBy(next as PickBy);
        }}
      />
      {!bare &&
        preset === null &&
        texts.map((text, i) => (
          <Value
            key={i}
            of={of}
            text={text}
            onText={(next) => {
              setWrong(false);
              setTexts(texts.map((one, at) => (at === i ? next : one)));
            }}
          />
        ))}
      {isWrong && <p className="trouble">{wrongWords()[of.kind] ?? speak`Say what to compare with.`}</p>}
      {onGroup !== undefined && (
        <p>
          <button type="button" className="button-plain" onClick={onGroup.begin}>
            <Plus size={14} aria-hidden />
            {onGroup.words}
          </button>
        </p>
      )}
      <p className="flex items-center justify-between gap-3">
        {onDrop !== undefined ? (
          <button type="button" className="button-plain" onClick={onDrop}>{speak`Take it away`}</button>
        ) : (
          <span />
        )}
        <button type="submit" className="button button-dark">
          {action}
        </button>
      </p>
    </form>
  );
}

const DAY = '2026-11-23';
const wrongWords = (): Readonly<Partial<Record<Filterable['kind'], string>>> => ({
  whole: speak`That is no number, such as 12.`,
  decimal: speak`That is no number, such as ${writtenNumber('12.5')}.`,
  money: speak`That is no number, such as ${writtenNumber('12.50')}.`,
  date: speak`That is no day, such as ${dayInDigits(DAY)}, today or 30 days ago.`,
  'date-time': speak`That is no day, such as ${dayInDigits(DAY)}.`,
  time: speak`That is no time, such as 14:30.`,
});

/** What stands in the control for a FEEL value: codes of choices, anything else as it is read. */
function asTyped(of: Filterable, feel: string): string {
  if (of.kind === 'yes-no') return feel;
  return of.choices.length > 0 ? feel.replace(/^"|"$/g, '') : wordsOf(of, feel);
}

function Value({
  of,
  text,
  onText,
}: {
  readonly of: Filterable;
  readonly text: string;
  readonly onText: (text: string) => void;
}) {
  if (of.kind === 'yes-no' || of.choices.length > 0)
    return (
      <Select
        look="box"
        label={speak`Value`}
        value={text === '' ? null : text}
        choices={
          of.kind === 'yes-no'
            ? [
                { value: 'true', label: speak`Yes` },
                { value: 'false', label: speak`No` },
              ]
            : offered(of.choices).map(({ code, label }) => ({ value: code, label }))
        }
        onChange={onText}
      />
    );
  return (
    <input
      className="box"
      aria-label={speak`Value`}
      placeholder={of.kind === 'date' ? speak`${dayInDigits(DAY)}, or 30 days ago` : ''}
      value={text}
      onChange={(event) => onText(event.target.value)}
    />
  );
}
