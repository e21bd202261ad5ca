import { CircleCheck, CircleX, FilePen, Hourglass, Reply, Undo2, type LucideIcon } from './icons';
import type { SubmissionState } from '../../core/approval/path';
import { speak, spoken } from '../../core/wording/speak';

const looks = spoken(
  (): Readonly<Record<SubmissionState, { words: string; look: string; Icon: LucideIcon }>> => ({
    draft: { words: speak`Draft`, look: 'bg-slate-200 text-slate-800', Icon: FilePen },
    waiting: { words: speak`Waiting`, look: 'bg-slate-200 text-slate-800', Icon: Hourglass },
    'sent-back': { words: speak`Sent back to you`, look: 'bg-slate-200 text-slate-800', Icon: Reply },
    kept: { words: speak`Kept`, look: 'bg-lichen-soft text-lichen-deep', Icon: CircleCheck },
    declined: { words: speak`Declined`, look: 'bg-rust-soft text-rust', Icon: CircleX },
    withdrawn: { words: speak`Taken back`, look: 'bg-slate-200 text-slate-800', Icon: Undo2 },
  }),
);

/** Marker yellow only where it waits for the person who looks. */
export function StateTag({
  state,
  words,
  forYou = state === 'sent-back',
}: {
  state: SubmissionState;
  words?: string;
  forYou?: boolean;
}) {
  const { words: usual, look, Icon } = looks()[state];
  return (
    <span className={`tag ${forYou ? 'bg-marker text-ink' : look}`}>
      <Icon size={14} aria-hidden />
      {words ?? usual}
    </span>
  );
}
