import { useContext, useRef, useState } from 'react';
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import type { FilterFault } from './filter-words';
import { ConditionAction } from './Condition';
import { FormEnd } from './FormEnd';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly where: string;
  readonly says: string;
  /** Gives what is wrong with it, or null. */
  readonly onWritten: (where: string) => Promise<FilterFault | null>;
}

/** For what picking cannot say: the whole filter in FEEL. */
export function WriteIt({ where, says, onWritten }: Props) {
  return (
    <DialogTrigger>
      <Button className="button-plain text-lichen-deep!">
        {where === '' ? speak`or write an expression` : speak`as an expression`}
      </Button>
      <Popover className="popover w-96 max-w-[92vw] p-3!">
        <Dialog aria-label={speak`Filter in FEEL`} className="outline-none">
          {({ close }) => <WrittenFilter where={where} says={says} onWritten={onWritten} close={close} />}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}

function WrittenFilter({ where, says, onWritten, close }: Props & { readonly close: () => void }) {
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
        {speak`${says}, in FEEL`}
        <textarea
          ref={box}
          rows={4}
          className="box font-mono text-[13px]"
          maxLength={4_000}
          spellCheck={false}
          // It was just opened by pressing a button.
          // oxlint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          placeholder={speak`state in ("growing") and (bed.section = "Fern house" or received = null)`}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setWrong(null);
          }}
        />
      </label>
      <FormEnd trouble={wrong?.sentence ?? null} action={useContext(ConditionAction) ?? speak`Show these`} />
    </form>
  );
}
