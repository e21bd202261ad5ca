import { useQuery } from '@tanstack/react-query';
import { matchedParts } from '../../core/record/matched-parts';
import { ChevronsUpDown, Plus } from './icons';
import { useEffect, useState, type ReactNode } from 'react';
import { Button, ComboBox, Input, ListBox, ListBoxItem, Popover } from 'react-aria-components';
import { speak } from '../../core/wording/speak';

export interface LookupOption {
  readonly id: string;
  readonly title: string;
  readonly shown: readonly string[];
}

/** What a search found. */
export interface Found<O> {
  readonly options: readonly O[];
  /** The first of them were picked lately. */
  readonly lately?: number;
  /** Nothing shows the words as they are written; these do but for a letter. */
  readonly near?: boolean;
  /** What must be answered before anything is offered. */
  readonly waitsFor?: readonly string[];
  /** What the columns beside the title are called. */
  readonly heads?: readonly string[];
  /** To what a missing one can be added. */
  readonly addsTo?: string | null;
  /** Stands below what was found. */
  readonly note?: ReactNode;
}

interface Props<O extends LookupOption> {
  readonly label: string;
  readonly picked: { readonly id: string; readonly title: string } | null;
  /** What stands there instead of a record: typed or pasted, and not found. */
  readonly typed?: string;
  readonly search: (words: string) => Promise<Found<O>>;
  readonly searchKey: readonly unknown[];
  /** Records that are picked elsewhere already, and not to be offered; then the list waits for the first letter. */
  readonly without?: ReadonlySet<string> | undefined;
  readonly onPick: (option: O | null) => void;
  /** Words that were left without a pick. Left out, what stood there before is put back. */
  readonly onWords?: (words: string) => void;
  /** Adds what is missing, beginning with the words that were typed; for those who may. */
  readonly onAdd?: ((words: string) => void) | undefined;
  readonly onBlur?: () => void;
  readonly id?: string;
  readonly invalid?: boolean;
  readonly describedBy?: string | undefined;
  readonly placeholder?: string;
  readonly bare?: boolean;
}

/** Long enough that a quick typist asks once per word. */
const SEARCH_AFTER_MS = 120;

/** Finds a record by any word of it and shows it by its title. */
export function Lookup<O extends LookupOption>({
  label,
  picked,
  typed = '',
  without,
  search,
  searchKey,
  onPick,
  onWords,
  onAdd,
  onBlur,
  id,
  invalid = false,
  describedBy,
  placeholder,
  bare = false,
}: Props<O>) {
  const [words, setWords] = useState(picked?.title ?? typed);
  useEffect(() => setWords(picked?.title ?? typed), [picked?.id, picked?.title, typed]);
  const wanted = words === picked?.title ? '' : words;
  const asked = useSettled(wanted, SEARCH_AFTER_MS);
  const [open, setOpen] = useState(false);
  const { data, isFetching } = useQuery({
    queryKey: [...searchKey, asked],
    queryFn: () => search(asked),
    enabled: open,
  });
  // What was found for other words is not offered: somebody in a hurry would pick it.
  const isLooking = wanted !== asked || isFetching;
  const options = isLooking ? [] : (data?.options ?? []).filter(({ id: one }) => without?.has(one) !== true);
  const lately = (data?.options ?? []).slice(0, data?.lately ?? 0).map(({ id: one }) => one);
  const heads = data?.heads ?? [];
  const canAdd = onAdd !== undefined && data?.addsTo != null && !isLooking;
  const isTable = heads.length > 0 && options.length > 0;
  // Words that change by themselves must not open the list again that was just closed.
  const [isPutBack, setPutBack] = useState(false);
  useEffect(() => setPutBack(false), [words]);
  const putBack = () => {
    setPutBack((picked?.title ?? typed) !== words);
    setWords(picked?.title ?? typed);
  };
  const leave = () => {
    const left = words.trim();
    if (left !== '' && left !== picked?.title && left !== typed) {
      if (onWords !== undefined) onWords(left);
      else setWords(picked?.title ?? typed);
    } else if (left !== '') setWords(picked?.title ?? typed);
    onBlur?.();
  };
  return (
    <ComboBox
      aria-label={label}
      items={options}
      inputValue={words}
      selectedKey={picked?.id ?? null}
      allowsEmptyCollection
      allowsCustomValue
      menuTrigger={isPutBack ? 'manual' : without === undefined ? 'focus' : 'input'}
      isInvalid={invalid}
      onOpenChange={setOpen}
      onInputChange={(next) => {
        setWords(next);
        if (next === '' && (picked !== null || typed !== '')) onPick(null);
      }}
      onSelectionChange={(key) => {
        const option = options.find((one) => one.id === key);
        if (option === undefined) return;
        onPick(option);
        setWords(option.title);
      }}
      onBlur={leave}
    >
      <div className={bare ? 'flex items-center' : `box flex items-center p-0 ${invalid ? 'wrong' : ''}`}>
        <Input
          {...(id !== undefined && { id })}
          {...(describedBy && { 'aria-describedby': describedBy })}
          placeholder={placeholder ?? speak`Type to find`}
          className={`min-w-0 flex-1 rounded-md bg-transparent ${bare ? 'py-1' : 'px-2.5 py-1.5'} placeholder:text-slate-500`}
          onKeyDown={(event) => {
            if (event.key === 'Escape') putBack();
            if (event.key === 'Enter' && canAdd && options.length === 0 && words.trim() !== '') {
              event.preventDefault();
              onAdd?.(wanted.trim());
            }
          }}
        />
        <Button className="px-2 text-slate-700">
          <ChevronsUpDown size={15} aria-hidden />
        </Button>
      </div>
      <Popover className="popover">
        {data?.near === true && !isLooking && (
          <p className="px-2 py-1 text-[13px] text-slate-600">{speak`Nothing is called that. Did you mean one of these?`}</p>
        )}
        {isTable && (
          <p
            aria-hidden
            className="option-row px-2 py-0.5 text-[12px] text-slate-600 max-sm:hidden"
            style={columnsOf(heads)}
          >
            <span />
            {heads.map((head) => (
              <span key={head}>{head}</span>
            ))}
          </p>
        )}
        <ListBox
          className="outline-none"
          renderEmptyState={() => (
            <p className="px-2 py-1 text-slate-600">
              {isLooking ? speak`Looking…` : emptyWords(data?.waitsFor ?? [])}
            </p>
          )}
        >
          {(option: O) => (
            <ListBoxItem
              id={option.id}
              textValue={option.title}
              className={`option ${isTable ? 'option-row' : ''}`}
              {...(isTable && { style: columnsOf(heads) })}
            >
              <span>
                <Marked text={option.title} search={asked} />
                {lately.includes(option.id) && (
                  <span className="ml-2 text-[12px] text-slate-600">{speak`picked lately`}</span>
                )}
              </span>
              {option.shown
                .filter((one) => isTable || one !== '')
                .map((one, i) => (
                  <span key={i} className="text-[13px] text-slate-600">
                    <Marked text={one} search={asked} />
                  </span>
                ))}
            </ListBoxItem>
          )}
        </ListBox>
        {canAdd && (
          <button
            type="button"
            className="button-plain w-full border-t border-slate-200 px-2 pt-1.5 text-left text-[13px]"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => onAdd?.(wanted.trim())}
          >
            <Plus size={14} aria-hidden />
            {wanted.trim() === ''
              ? speak`Add one to ${data.addsTo}`
              : speak`Add “${wanted.trim()}” to ${data.addsTo}`}
            {options.length === 0 && wanted.trim() !== '' && (
              <kbd className="ml-auto font-mono text-[12px]">⏎</kbd>
            )}
          </button>
        )}
        {data?.note !== undefined && (
          <p className="border-t border-slate-200 px-2 pt-1 text-[13px] text-slate-600">{data.note}</p>
        )}
      </Popover>
    </ComboBox>
  );
}

const emptyWords = (waitsFor: readonly string[]): string =>
  waitsFor.length === 0
    ? speak`Nothing found; try another word`
    : speak`First answer: ${waitsFor.join(', ')}`;

/** The title, and a column for each of what is shown beside it. */
const columnsOf = (heads: readonly string[]) => ({
  gridTemplateColumns: `minmax(11rem, 2fr) ${'minmax(4.5rem, 1fr) '.repeat(heads.length)}`,
});

/** A text in which what was searched for stands out. */
function Marked({ text, search }: { text: string; search: string }) {
  return matchedParts(text, search).map(({ text: part, matches }, i) =>
    matches ? (
      <b key={i} className="text-lichen-deep underline decoration-1 underline-offset-2">
        {part}
      </b>
    ) : (
      part
    ),
  );
}

function useSettled(value: string, ms: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
