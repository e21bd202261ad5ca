import { issueSentence } from '../../core/wording/issue-sentence';
import type { Workbench } from './use-workbench';

/** More than two at one line are told when those are mended. */
const MOST_SHOWN = 2;

interface Props {
  readonly bench: Workbench;
  readonly id: string;
  /** An editor beside it tells already what cannot be read, at its word. */
  readonly besideEditor?: boolean;
}

/** What is wrong with a line of a face. */
export const Troubles = ({ bench, id, besideEditor = false }: Props) =>
  bench
    .issuesAt(id)
    .filter(({ facts }) => !besideEditor || !('from' in facts))
    .slice(0, MOST_SHOWN)
    .map((issue, i) => (
      <p key={i} className="trouble">
        {issueSentence(issue)}
      </p>
    ));
