import { useState } from 'react';
import {
  Button,
  Dialog,
  DialogTrigger,
  GridList,
  GridListItem,
  Popover,
  useDragAndDrop,
} from 'react-aria-components';
import type { Place } from '../../core/record/places';
import { ChevronsUpDown, CircleX, Columns3, Pin, Search } from '../kit/icons';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly places: readonly Place[];
  readonly shown: readonly Place[];
  readonly pinned: number;
  readonly onShown: (places: readonly Place[]) => void;
  readonly onPinned: (pinned: number) => void;
}

/** Which columns are shown, in what order, and how many of them stay in sight; also those of what a record refers to. */
export function ColumnsButton(props: Props) {
  return (
    <DialogTrigger>
      <Button className="button">
        <Columns3 size={15} aria-hidden />
        {speak`Columns`}
      </Button>
      <Popover className="popover max-h-[70vh] w-88 max-w-[92vw] p-3!">
        <Dialog aria-label={speak`Columns`} className="outline-none">
          <Columns {...props} />
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

/** More matches than these say nothing more; another word is quicker. */
const MOST_OFFERED = 40;

function Columns({ places, shown, pinned, onShown, onPinned }: Props) {
  const [words, setWords] = useState('');
  const others = places.filter((place) => !shown.includes(place));
  const small = words.trim().toLowerCase();
  const found = others.filter(({ label }) => label.toLowerCase().includes(small)).slice(0, MOST_OFFERED);
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ 'text/plain': String(key) })),
    onReorder: ({ keys, target }) => {
      const moved = shown.filter(({ text }) => keys.has(text));
      const left = shown.filter(({ text }) => !keys.has(text));
      const at =
        left.findIndex(({ text }) => text === target.key) + (target.dropPosition === 'after' ? 1 : 0);
      onShown([...left.slice(0, at), ...moved, ...left.slice(at)]);
    },
  });
  return (
    <div className="grid gap-2">
      <GridList
        aria-label={speak`Shown columns, in their order`}
        items={shown.map((place, i) => ({ id: place.text, place, i }))}
        dragAndDropHooks={dragAndDropHooks}
        dependencies={[shown, pinned]}
        className="grid gap-0.5 outline-none"
      >
        {({ place, i }) => (
          <GridListItem
            textValue={place.label}
            className="flex items-center gap-2 rounded px-1 py-0.5 outline-none hover:bg-slate-50 focus-visible:ring-2 focus-visible:ring-lichen"
          >
            <Button
              slot="drag"
              aria-label={speak`Move ${place.label}`}
              className="cursor-grab text-slate-600"
            >
              <ChevronsUpDown size={15} aria-hidden />
            </Button>
            <span className="min-w-0 flex-1 truncate">{place.label}</span>
            <Button
              aria-label={
                i < pinned ? speak`Let ${place.label} scroll` : speak`Keep in sight up to ${place.label}`
              }
              className={`rounded p-0.5 ${i < pinned ? 'bg-lichen-soft text-lichen-deep' : 'text-slate-500'}`}
              onPress={() => onPinned(i < pinned ? i : i + 1)}
            >
              <Pin size={15} aria-hidden />
            </Button>
            <Button
              aria-label={speak`Hide ${place.label}`}
              isDisabled={shown.length === 1}
              className="text-slate-600 disabled:opacity-40"
              onPress={() => onShown(shown.filter((one) => one !== place))}
            >
              <CircleX size={15} aria-hidden />
            </Button>
          </GridListItem>
        )}
      </GridList>
      <label className="box flex items-center gap-2 py-1">
        <Search size={15} aria-hidden className="shrink-0 text-slate-600" />
        <span className="sr-only">{speak`Find another column`}</span>
        <input
          type="search"
          className="min-w-0 flex-1 bg-transparent"
          placeholder={speak`Find another column`}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      <ul aria-label={speak`Other columns`} className="grid max-h-60 gap-0.5 overflow-y-auto">
        {found.map((place) => (
          <li key={place.text}>
            <button
              type="button"
              className="w-full truncate rounded px-1 py-0.5 text-left hover:bg-lichen-soft"
              onClick={() => onShown([...shown, place])}
            >
              <span aria-hidden>+ </span>
              <span className="sr-only">{speak`Show`} </span>
              {place.label}
            </button>
          </li>
        ))}
        {found.length === 0 && <li className="quiet px-1">{speak`No other column is called that.`}</li>}
      </ul>
    </div>
  );
}
