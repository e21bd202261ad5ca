import { useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import type { RecordsData } from '../../contract/answers-from-server';
import { readSorts, type Place } from '../../core/record/places';
import { call } from '../kit/call';
import { ArrowDown, CircleX } from '../kit/icons';
import { addressOf, type Query } from './use-records';
import { FormEnd } from '../kit/FormEnd';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly table: string;
  readonly places: readonly Place[];
  readonly query: Query;
  /** From where on they are shown; null from the first. */
  readonly at: string | null;
  readonly onJump: (at: string | null) => void;
}

/** Goes to a value in the order records are shown in. */
export function JumpTo({ table, places, query, at, onJump }: Props) {
  const by = readSorts(query.sort)[0]?.by ?? 'number';
  const label = by === 'number' ? speak`Number` : (places.find(({ text }) => text === by)?.label ?? by);
  if (at !== null)
    return (
      <span className="pick">{speakIn`${label} from ${at} on${(
        <button type="button" aria-label={speak`Show them from the first`} onClick={() => onJump(null)}>
          <CircleX size={15} aria-hidden />
        </button>
      )}`}</span>
    );
  return (
    <DialogTrigger>
      <Button className="button-plain text-lichen-deep!">
        <ArrowDown size={14} aria-hidden />
        {speak`go to a value`}
      </Button>
      <Popover className="popover w-72 max-w-[92vw] p-3!">
        <Dialog aria-label={speak`Go to a value of ${label}`} className="outline-none">
          {({ close }) => (
            <Asked
              label={label}
              onAsk={async (text) => {
                const found = await call<RecordsData>(
                  'GET',
                  `/api/tables/${table}/records?${addressOf(query)}&${new URLSearchParams({ at: text })}`,
                ).catch(() => null);
                if (found === null) return speak`The server cannot be reached. Try again in a moment.`;
                if (!found.ok) return found.error.issues?.[0]?.sentence ?? found.error.title;
                if (found.value.rows.length === 0) return speak`Nothing stands from there on.`;
                onJump(text);
                close();
                return null;
              }}
            />
          )}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

function Asked({
  label,
  onAsk,
}: {
  readonly label: string;
  /** Gives what is wrong, or null. */
  readonly onAsk: (text: string) => Promise<string | null>;
}) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== '') void onAsk(text.trim()).then(setWrong);
      }}
    >
      <label className="grid gap-1">
        {speak`${label}, or the first beyond it`}
        <input
          className="box"
          value={text}
          maxLength={200}
          // The question was just opened by pressing a button.
          // oxlint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          onChange={(event) => {
            setText(event.target.value);
            setWrong(null);
          }}
        />
      </label>
      <FormEnd trouble={wrong} action={speak`Go there`} />
    </form>
  );
}
