import { useQuery } from '@tanstack/react-query';
import { ChevronsUpDown } from './icons';
import { useEffect, useState, type ReactNode } from 'react';
import { Button, ComboBox, Input, ListBox, ListBoxItem, Popover } from 'react-aria-components';

export interface LookupOption {
  readonly id: string;
  readonly title: string;
  readonly shown: readonly string[];
}

interface Props<O extends LookupOption> {
  readonly label: string;
  readonly picked: { readonly id: string; readonly title: string } | null;
  /** What stands there instead of a record: pasted, and not found. */
  readonly typed?: string;
  /** `note` stands below what was found. */
  readonly search: (words: string) => Promise<{ readonly options: readonly O[]; readonly note?: ReactNode }>;
  readonly searchKey: readonly unknown[];
  readonly onPick: (option: O | null) => void;
  readonly onBlur?: () => void;
  readonly id?: string;
  readonly invalid?: boolean;
  readonly describedBy?: string | undefined;
  readonly placeholder?: string;
  readonly bare?: boolean;
}

/** Long enough that a quick typist asks once per word. */
const SEARCH_AFTER_MS = 120;

/** Finds a record by any word of it and shows it by its title; what is typed but not picked is put back. */
export function Lookup<O extends LookupOption>({
  label,
  picked,
  typed = '',
  search,
  searchKey,
  onPick,
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
  const options = isLooking ? [] : (data?.options ?? []);
  return (
    <ComboBox
      aria-label={label}
      items={options}
      inputValue={words}
      selectedKey={picked?.id ?? null}
      allowsEmptyCollection
      menuTrigger="focus"
      isInvalid={invalid}
      onOpenChange={setOpen}
      onInputChange={(next) => {
        setWords(next);
        if (next === '' && (picked !== null || typed !== '')) onPick(null);
      }}
      onSelectionChange={(key) => {
        const option = options.find((one) => one.id === key);
        if (option !== undefined) onPick(option);
        setWords(option?.title ?? picked?.title ?? typed);
      }}
      {...(onBlur && { onBlur })}
    >
      <div className={bare ? 'flex items-center' : `box flex items-center p-0 ${invalid ? 'wrong' : ''}`}>
        <Input
          {...(id !== undefined && { id })}
          {...(describedBy && { 'aria-describedby': describedBy })}
          placeholder={placeholder ?? 'Type to find'}
          className={`min-w-0 flex-1 rounded-md bg-transparent ${bare ? 'py-1' : 'px-2.5 py-1.5'} placeholder:text-slate-500`}
        />
        <Button className="px-2 text-slate-700">
          <ChevronsUpDown size={15} aria-hidden />
        </Button>
      </div>
      <Popover className="popover">
        <ListBox
          className="outline-none"
          renderEmptyState={() => (
            <p className="px-2 py-1 text-slate-600">
              {isLooking ? 'Looking…' : 'Nothing found; try another word'}
            </p>
          )}
        >
          {(option: O) => (
            <ListBoxItem
              id={option.id}
              textValue={option.title}
              className="option flex flex-wrap items-baseline gap-x-3"
            >
              <span>{option.title}</span>
              <span className="text-[13px] text-slate-600">
                {option.shown.filter((one) => one !== '').join(' · ')}
              </span>
            </ListBoxItem>
          )}
        </ListBox>
        {data?.note !== undefined && (
          <p className="border-t border-slate-200 px-2 pt-1 text-[13px] text-slate-600">{data.note}</p>
        )}
      </Popover>
    </ComboBox>
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
