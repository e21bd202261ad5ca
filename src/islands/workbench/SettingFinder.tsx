import { useEffect, useRef, useState } from 'react';
import { Autocomplete, Input, Menu, MenuItem, SearchField } from 'react-aria-components';
import { Search } from '../kit/icons';
import { linesAndFaces, matching, settingsIn, type Findable } from './find-setting';
import type { Workbench } from './use-workbench';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const MOST = 12;
const kinds = spoken((): Readonly<Record<Findable['what'], string>> => ({
  setting: speak`in the margin`,
  line: speak`line`,
  face: speak`face`,
}));

interface Props {
  readonly bench: Workbench;
  readonly faces: readonly { readonly key: string; readonly words: string }[];
  readonly goTo: (face: string) => void;
}

/** A setting is found by typing: those of the margin as it is, the lines, the faces. */
export function SettingFinder(props: Props) {
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'j' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="ml-auto flex items-center gap-1.5 px-2 text-[14px] text-slate-700 hover:underline max-sm:hidden"
      >
        <Search size={15} aria-hidden />
        {speakIn`Find a setting ${(<kbd>{speak`Ctrl J`}</kbd>)}`}
      </button>
      {isOpen && <Finder {...props} onClose={() => setOpen(false)} />}
    </>
  );
}

function Finder({ bench, faces, goTo, onClose }: Props & { readonly onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [typed, setTyped] = useState('');
  // Read once, before the dialog is shown: while it is, the margin stays as it is.
  const [all] = useState(() => [
    ...settingsIn(document.getElementById('margin')),
    ...linesAndFaces(bench, faces, goTo),
  ]);
  useEffect(() => {
    dialog.current?.showModal();
    dialog.current?.querySelector('input')?.focus();
  }, []);
  const found = matching(all, typed).slice(0, MOST);
  const go = (one: Findable | undefined) => {
    dialog.current?.close();
    // After the dialog has given the focus back.
    if (one !== undefined) setTimeout(one.go);
  };
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- Keys typed in a dialog are not those of the page behind it.
    <dialog
      ref={dialog}
      aria-label={speak`Find a setting`}
      className="mx-auto mt-[12vh] w-[min(34rem,calc(100vw-1.5rem))] rounded-lg border border-slate-300 bg-white p-0 text-ink shadow-lg backdrop:bg-slate-950/40"
      onClose={onClose}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <Autocomplete inputValue={typed} onInputChange={setTyped}>
        <SearchField aria-label={speak`What is to be set`}>
          <Input
            placeholder={speak`hint, required, pick from …`}
            className="w-full border-b border-slate-200 px-4 py-3 text-[16px] outline-none [&::-webkit-search-cancel-button]:hidden"
          />
        </SearchField>
        <Menu
          aria-label={speak`Settings found`}
          items={found.map((one, i) => ({ ...one, id: i }))}
          onAction={(at) => go(found[Number(at)])}
          className="max-h-[50vh] overflow-y-auto py-1 outline-none"
          renderEmptyState={() => (
            <p className="quiet px-4 py-2">{speak`Nothing here is called that. Settings of a line are found while the line is in hand.`}</p>
          )}
        >
          {(one) => (
            <MenuItem
              id={one.id}
              textValue={one.words}
              className="flex cursor-pointer items-baseline gap-3 px-4 py-1.5 outline-none data-[focused]:bg-lichen-soft"
            >
              <span className="min-w-0 truncate">{one.words}</span>
              <span className="quiet ml-auto shrink-0">{kinds()[one.what]}</span>
            </MenuItem>
          )}
        </Menu>
      </Autocomplete>
    </dialog>
  );
}
