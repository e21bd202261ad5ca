import { countStaged } from '../../core/record/staged';
import { counted } from '../../core/wording/numbers';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly edits: StagedEdits;
  readonly isLookedOver: boolean;
  /** What the numbers that are marked come to. */
  readonly total?: string;
  readonly onLookOver: () => void;
  readonly onSave: () => void;
  /** To the first cell that keeps the edits from being saved. */
  readonly onTrouble: () => void;
}

/** What is staged, in a bar under the grid, with what can be done with it. */
export function StagedBar({ edits, isLookedOver, total = '', onLookOver, onSave, onTrouble }: Props) {
  const { staged, troubles, words, saving } = edits;
  if (staged.length === 0)
    return (
      <p role="status" className="quiet min-h-5 px-4 py-1">
        {words === '' ? total : words}
      </p>
    );
  const { edits: count, records } = countStaged(staged);
  return (
    <div className="staged-bar">
      <p role="status" className="mr-auto flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="rounded bg-marker px-2 py-0.5 font-semibold text-ink">{counted(count, 'edit')}</span>{' '}
        <span>{speakIn`in ${counted(records, 'record')}, not saved yet${(words !== '' || total !== '') && `. ${words === '' ? total : words}`}`}</span>
        {troubles.length > 0 && (
          <button
            type="button"
            className="rounded px-1 font-semibold text-marker hover:underline"
            onClick={onTrouble}
          >{speak`${counted(troubles.length, 'thing')} to fix`}</button>
        )}
      </p>
      <button
        type="button"
        className="rounded px-1 text-slate-200 hover:underline"
        onClick={() => edits.edit(() => [])}
      >{speak`Drop ${count === 1 ? speak`it` : speak`all`}`}</button>
      {!isLookedOver && (
        <button
          type="button"
          className="button"
          onClick={onLookOver}
        >{speak`Look ${count === 1 ? speak`it` : speak`them`} over`}</button>
      )}
      <button
        type="button"
        className="button button-go"
        disabled={saving || troubles.length > 0}
        onClick={onSave}
      >
        {saving ? speak`Saving` : speak`Save`} {counted(records, 'record')}
        <kbd className="rounded border border-white/60 px-1 font-mono text-[12px] max-sm:hidden">{speak`Ctrl S`}</kbd>
      </button>
    </div>
  );
}
