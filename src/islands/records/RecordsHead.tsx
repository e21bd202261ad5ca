import type { RecordsData, TableAtWork } from '../../contract/answers-from-server';
import { counted, digits } from '../../core/wording/numbers';
import { FirstForm } from '../kit/FirstForm';
import { ChevronDown, Download, PencilRuler, Plus, Search, Trash2 } from '../kit/icons';
import { useEffect, useState, type ReactNode } from 'react';
import { Button, Header, Menu, MenuItem, MenuSection, MenuTrigger, Popover } from 'react-aria-components';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly work: TableAtWork;
  /** Null while nothing has been asked for yet. */
  readonly data: RecordsData | null;
  /** Which records are shown, and what of them, as an address says it. */
  readonly shown: string;
  readonly onAdd: () => void;
  /** How it is shown. */
  readonly children: ReactNode;
}

/** What the table is called, how many records are shown, and what can be done with all of it. */
export function RecordsHead({ work, data, shown, onAdd, children }: Props) {
  const { table, may } = work;
  return (
    <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-2">
      <div>
        <p className="quiet">
          <a href="/tables" className="crumb">{speak`Tables`}</a>
        </p>
        <h1 className="text-[23px]">
          {table.label}{' '}
          <span className="quiet font-sans font-normal" role="status">
            {data === null
              ? ''
              : data.find === '' && data.where === ''
                ? `${data.about ? speak`about ` : ''}${counted(data.total, 'record')}${work.isLimited ? speak` shown to you` : ''}`
                : speak`${data.about ? speak`more than ` : ''}${digits(data.total)} found`}
          </span>
        </h1>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {may.remove && (
          <a href={`/tables/${table.key}/bin`} className="inline-flex items-center gap-1.5 text-[14px]">
            <Trash2 size={15} aria-hidden />
            {speak`Bin`}
          </a>
        )}
        <MenuTrigger>
          <Button className="button">
            <Download size={15} aria-hidden />
            {speak`Export`}
            <ChevronDown size={14} aria-hidden />
          </Button>
          <Popover className="popover">
            <Menu aria-label={speak`Export`} className="outline-none">
              {(
                [
                  [speak`What is shown`, shownAs, `&shown=yes&${shown}`],
                  [speak`All of the table`, takeOut(), ''],
                ] as const
              ).map(([title, formats, more]) => (
                <MenuSection key={title}>
                  <Header className="px-2 pt-1 text-[13px] text-slate-600">{title}</Header>
                  {formats.map(([as, words]) => (
                    <MenuItem
                      key={as}
                      download
                      href={`/api/tables/${table.key}/export?as=${as}${more}`}
                      className="option block text-ink no-underline"
                    >
                      {words}
                    </MenuItem>
                  ))}
                </MenuSection>
              ))}
            </Menu>
          </Popover>
        </MenuTrigger>
        {children}
        {work.mayDesign && (
          <a href={`/tables/${table.key}/design`} className="button">
            <PencilRuler size={15} aria-hidden />
            {speak`Design`}
          </a>
        )}
        {work.mayDesign && table.parent === null && (table.linked?.adds ?? true) && (
          <FirstForm table={table.key} />
        )}
        {may.add && table.parent === null && (
          <button type="button" className="button button-dark" onClick={onAdd}>
            <Plus size={15} aria-hidden />
            {speak`Add a record`}
          </button>
        )}
      </div>
    </div>
  );
}

const shownAs = [
  ['csv', 'CSV'],
  ['xlsx', 'XLSX'],
  ['json', 'JSON'],
] as const;
const takeOut = spoken(
  () =>
    [
      ['csv', 'CSV'],
      ['xlsx', 'XLSX'],
      ['json', 'JSON'],
      ['package', speak`Data Package`],
      ['sql', 'SQL'],
    ] as const,
);

/** Long enough that a quick typist asks once per word. */
const SEARCH_AFTER_MS = 250;

/** Words that must each be seen somewhere in a record. */
export function Find({ find, onFind }: { readonly find: string; readonly onFind: (words: string) => void }) {
  const [words, setWords] = useState(find);
  useEffect(() => {
    if (words.trim() === find) return;
    const timer = setTimeout(() => onFind(words.trim()), SEARCH_AFTER_MS);
    return () => clearTimeout(timer);
  }, [words, find, onFind]);
  return (
    <label className="box flex max-w-md items-center gap-2 py-1">
      <Search size={15} aria-hidden className="shrink-0 text-slate-600" />
      <span className="sr-only">{speak`Find in all columns`}</span>
      <input
        type="search"
        className="min-w-0 flex-1 bg-transparent outline-offset-4"
        placeholder={speak`Find in all columns`}
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
    </label>
  );
}
