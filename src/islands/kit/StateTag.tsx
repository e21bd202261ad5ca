import { CircleCheck, CircleX, FilePen, Hourglass, Reply, Undo2, type LucideIcon } from 'lucide-react';
import type { SubmissionState } from '../../core/approval/path';

const looks: Readonly<Record<SubmissionState, { words: string; look: string; Icon: LucideIcon }>> = {
  draft: { words: 'Draft', look: 'bg-slate-200 text-slate-800', Icon: FilePen },
  waiting: { words: 'Waiting', look: 'bg-slate-200 text-slate-800', Icon: Hourglass },
  'sent-back': { words: 'Sent back to you', look: 'bg-marker text-ink', Icon: Reply },
  kept: { words: 'Kept', look: 'bg-lichen-soft text-lichen-deep', Icon: CircleCheck },
  declined: { words: 'Declined', look: 'bg-rust-soft text-rust', Icon: CircleX },
  withdrawn: { words: 'Taken back', look: 'bg-slate-200 text-slate-800', Icon: Undo2 },
};

export function StateTag({ state, words }: { state: SubmissionState; words?: string }) {
  const { words: usual, look, Icon } = looks[state];
  return <span className={`tag ${look}`}><Icon size={14} aria-hidden />{words ?? usual}</span>;
}
