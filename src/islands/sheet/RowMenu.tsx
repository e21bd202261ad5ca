import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { ArrowDown, ArrowUp, Copy, Trash2 } from '../kit/icons';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly letter: string;
  readonly onDuplicate: (() => void) | null;
  readonly onMove: (by: 1 | -1) => void;
  readonly onRemove: () => void;
}

/** What may be done with a row, behind its letter. */
export function RowMenu({ letter, onDuplicate, onMove, onRemove }: Props) {
  return (
    <DialogTrigger>
      <Button
        aria-label={speak`Row ${letter}: what to do with it`}
        className="min-h-6 min-w-6 rounded px-1 font-mono text-[13px] text-slate-600 hover:bg-slate-100"
      >
        {letter}
      </Button>
      <Popover className="popover" placement="bottom start">
        <Dialog aria-label={speak`Row ${letter}`} className="grid outline-none">
          {({ close }) => {
            const item = (label: string, icon: typeof Copy, act: () => void, keys = '') => {
              const Icon = icon;
              return (
                <button
                  type="button"
                  className="option flex w-full items-center gap-2 text-left hover:bg-slate-100"
                  onClick={() => {
                    close();
                    act();
                  }}
                >
                  <Icon size={15} aria-hidden />
                  <span className="flex-1">{label}</span>
                  {keys !== '' && <kbd className="quiet font-mono text-[12px] max-sm:hidden">{keys}</kbd>}
                </button>
              );
            };
            return (
              <>
                {onDuplicate !== null && item(speak`Duplicate`, Copy, onDuplicate)}
                {item(speak`Move up`, ArrowUp, () => onMove(-1), speak`Alt ↑`)}
                {item(speak`Move down`, ArrowDown, () => onMove(1), speak`Alt ↓`)}
                {item(speak`Remove`, Trash2, onRemove)}
              </>
            );
          }}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}
