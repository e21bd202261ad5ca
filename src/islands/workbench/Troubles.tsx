import { issueSentence } from '../../core/wording/issue-sentence';
import type { Workbench } from './use-workbench';

/** More than two at one line are told when those are mended. */
const MOST_SHOWN = 2;

/** What is wrong with a line of a face. */
export const Troubles = ({ bench, id }: { bench: Workbench; id: string }) =>
  bench
    .issuesAt(id)
    .slice(0, MOST_SHOWN)
    .map((issue, i) => (
      <p key={i} className="trouble">
        {issueSentence(issue)}
      </p>
    ));
