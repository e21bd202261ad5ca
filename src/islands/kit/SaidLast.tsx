import type { SubmissionSummary } from '../../contract/answers-from-server';
import { MessageCircle } from './icons';

/** What somebody said last about something on its way, which waits for an answer. */
export const SaidLast = ({ said }: Pick<SubmissionSummary, 'said'>) =>
  said !== null && (
    <span className="flex items-center gap-1 text-[14px] text-plum">
      <MessageCircle size={14} aria-hidden className="shrink-0" />
      <span className="truncate">
        {said.name}: “{said.word}”
      </span>
    </span>
  );
