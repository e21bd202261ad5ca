import { useRef, useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import type { Pick, PickBy, Picked } from '../../core/check/pick-text';
import type { Filterable } from '../../core/record/filter';
import { offered } from '../../core/table/choice-list';
import { ChevronDown, CircleX, Plus } from '../kit/icons';
import { Select } from '../kit/Select';
import { dayRanges, rangeWords } from '../../core/check/day-ranges';
import type { FilterFault } from './use-table';
import { comparisonsOf, feelOf, pickWords, wordsOf } from './filter-words';

interface Props {
  readonly filterables: readonly Filterable[];
  readonly where: string;
  /** The filter as it was picked; null where picking could not have made it. */
  readonly picked: Picked | null;
  readonly onPicked: (picked: Picked) => void;
  /** A filter that is written by hand; gives what is wrong with it, or null. */
  readonly onWritten: (where: string) => Promise<FilterFault | null>;
}

/** Which records are shown, as conditions that read as a sentence; each can be changed where it stands. */
export function FilterLine({ filterables, where, picked, onPicked, onWritten }: Props) {
  // A filter that picking could not have made stands as it is written.
  const picks = where === '' ? [] : (picked?.picks ?? null);
  const join = picked?.join ?? 'all';
  const put = (next: readonly Pick[]) => onPicked({ join, picks: next });
  const about = (left: string) => filterables.find(({ text }) => text === left);
  if (filterables.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-[14px]">
      <span className="text-slate-600">Show those where</span>
      {picks === null ? (
        <Chip words={where} onDrop={() => put([])} />
      ) : (
        picks.map((pick, i) => (
          <span key={`${pick.left} ${i}`} className="flex items-center gap-2">
            {i > 0 && (
              <button
                type="button"
                className="button-plain px-1 text-lichen-deep!"
                title={
                  join === 'all'
                    ? 'All of them hold. Press for any of them.'
                    : 'Any of them holds. Press for all of them.'
                }
                onClick={() => onPicked({ join: join === 'all' ? 'any' : 'all', picks })}
              >
                {join === 'all' ? 'and' : 'or'}
              </button>
            )}
            <Condition
              filterables={filterables}
              pick={pick}
              words={pickWords(about(pick.left), pick)}
              onDone={(next) => put(picks.map((one, at) => (at === i ? next : one)))}
              onDrop={() => put(picks.filter((_, at) => at !== i))}
            />
          </span>
        ))
      )}
      {picks !== null && (
        <Condition
          filterables={filterables}
          pick={null}
          words={picks.length === 0 ? 'add a condition' : join === 'all' ? 'and …' : 'or …'}
          onDone={(next) => put([...picks, next])}
        />
      )}
      <WriteIt where={where} onWritten={onWritten} />
    </div>
  );
}

function Chip({ words, onDrop }: { readonly words: string; readonly onDrop: () => void }) {
  return (
    <span className="pick">
      <code className="font-mono text-[13px] break-all">{words}</code>
      <button type="button" aria-label="Take this condition away" onClick={onDrop}>
        <CircleX size={15} aria-hidden />
      </button>
    </span>
  );
}

type Written = Readonly<{ where: string; onWritten: Props['onWritten'] }>;

/** For what picking cannot say: the whole filter in FEEL. */
function WriteIt({ where, onWritten }: Written) {
  return (
    <DialogTrigger>
      <Button className="button-plain text-lichen-deep!">
        {where === '' ? 'or write an expression' : 'as an expression'}
      </Button>
      <Popover className="popover w-96 max-w-[92vw] p-3!">
        <Dialog aria-label="Filter in FEEL" className="outline-none">
          {({ close }) => <WrittenFilter where={where} onWritten={onWritten} close={close} />}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

function WrittenFilter({ where, onWritten, close }: Written & { readonly close: () => void }) {
  const [text, setText] = useState(where);
  const [wrong, setWrong] = useState<FilterFault | null>(null);
  const box = useRef<HTMLTextAreaElement>(null);
  const show = async () => {
    const found = await onWritten(text.trim());
    setWrong(found);
    if (found === null) return close();
    box.current?.focus();
    if (found.at !== null)
      box.current?.setSelectionRange(found.at[0], Math.max(found.at[1], found.at[0] + 1));
  };
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void show();
      }}
    >
      <label className="grid gap-1">
        Show those where, in FEEL
        <textarea
          ref={box}
          rows={4}
          className="box font-mono text-[13px]"
          maxLength={4_000}
          spellCheck={false}
          // It was just opened by pressing a button.
          // eslint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          placeholder={'state in ("growing") and (bed.section = "Fern house" or received = null)'}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setWrong(null);
          }}
        />
      </label>
      {wrong !== null && (
        <p role="alert" className="trouble mt-0!">
          {wrong.sentence}
        </p>
      )}
      <p className="flex justify-end">
        <button type="submit" className="button button-dark">
          Show these
        </button>
      </p>
    </form>
  );
}

interface ConditionProps {
  readonly filterables: readonly Filterable[];
  /** Null for a new one. */
  readonly pick: Pick | null;
  readonly words: string;
  readonly onDone: (pick: Pick) => void;
  readonly onDrop?: () => void;
}

export function Condition({ filterables, pick, words, onDone, onDrop }: ConditionProps) {
  return (
    <DialogTrigger>
      <Button className={pick === null ? 'button-plain text-lichen-deep!' : 'pick'}>
        {pick === null && <Plus size={14} aria-hidden />}
        {words}
        {pick !== null && <ChevronDown size={14} aria-hidden className="shrink-0" />}
      </Button>
      <Popover className="popover max-w-[92vw] overflow-visible p-3!">
        <Dialog aria-label="Condition" className="outline-none">
          {({ close }) => (
            <Editor
              filterables={filterables}
              pick={pick}
              onDone={(next) => {
                onDone(next);
                close();
              }}
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

function Editor({ filterables, pick, onDone, onDrop }: Omit<ConditionProps, 'words'>) {
  const [left, setLeft] = useState(
    pick?.left ?? (filterables.find(({ kind }) => kind !== 'reference') ?? filterables[0])?.text ?? '',
  );
  const of = filterables.find(({ text }) => text === left);
  const [by, setBy] = useState<PickBy>(pick?.by ?? '=');
  const [texts, setTexts] = useState<readonly string[]>(
    of === undefined || pick === null ? [''] : pick.right.map((one) => asTyped(of, one)),
  );
  const [isWrong, setWrong] = useState(false);
  const [range, setRange] = useState(pick?.by === 'between' ? rangeWords(pick.right) : null);
  if (of === undefined) return null;
  const kinds = comparisonsOf(of);
  const known = kinds.some((one) => one.by === by) || by === 'one-of' || by === 'none-of' || by === 'between';
  const how = known ? by : (kinds[0]?.by ?? 'filled');
  const bare = how === 'filled' || how === 'empty';
  const ranges = of.kind === 'date' ? dayRanges : [];
  const done = () => {
    const chosen = ranges.find(({ words }) => words === range);
    if (chosen !== undefined) return onDone({ left, by: 'between', right: chosen.days });
    const right = bare ? [] : texts.filter((text) => text.trim() !== '').map((text) => feelOf(of, text));
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
        label="Column"
        value={left}
        choices={filterables.map(({ text, label }) => ({ value: text, label }))}
        onChange={(next) => {
          setLeft(next);
          setBy('=');
          setTexts(['']);
          setRange(null);
        }}
      />
      <Select
        look="box"
        label="Comparison"
        value={range ?? how}
        choices={[
          ...kinds.map((one) => ({ value: one.by, label: `is ${one.words}` })),
          ...(kinds.some((one) => one.by === how)
            ? []
            : [{ value: how, label: `is ${how === 'between' ? 'between' : 'one of'}` }]),
          ...ranges.map(({ words }) => ({ value: words, label: `is ${words}` })),
        ]}
        onChange={(next) => {
          const isRange = ranges.some(({ words }) => words === next);
          setRange(isRange ? next : null);
          if (!isRange) setBy(next as PickBy);
        }}
      />
      {!bare &&
        range === null &&
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
      {isWrong && <p className="trouble">{wrongWords[of.kind] ?? 'Say what to compare with.'}</p>}
      <p className="flex items-center justify-between gap-3">
        {onDrop !== undefined ? (
          <button type="button" className="button-plain" onClick={onDrop}>
            Take it away
          </button>
        ) : (
          <span />
        )}
        <button type="submit" className="button button-dark">
          Show these
        </button>
      </p>
    </form>
  );
}

const wrongWords: Readonly<Partial<Record<Filterable['kind'], string>>> = {
  whole: 'That is no number, such as 12.',
  decimal: 'That is no number, such as 12.5.',
  money: 'That is no number, such as 12.50.',
  date: 'That is no day, such as 23/11/2026, today or 30 days ago.',
  'date-time': 'That is no day, such as 23/11/2026.',
  time: 'That is no time, such as 14:30.',
};

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
        label="Value"
        value={text === '' ? null : text}
        choices={
          of.kind === 'yes-no'
            ? [
                { value: 'true', label: 'Yes' },
                { value: 'false', label: 'No' },
              ]
            : offered(of.choices).map(({ code, label }) => ({ value: code, label }))
        }
        onChange={onText}
      />
    );
  return (
    <input
      className="box"
      aria-label="Value"
      placeholder={of.kind === 'date' ? '23/11/2026, or 30 days ago' : ''}
      value={text}
      onChange={(event) => onText(event.target.value)}
    />
  );
}
