import { lineNumbers } from '../../core/form/numbered-lines';
import { labelOf } from '../../core/form/line';
import type { Issue } from '../../core/kernel/issue';
import { issueSentence } from '../../core/wording/issue-sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly bench: Workbench;
  readonly issues: readonly Issue[];
  readonly goTo: (face: string) => void;
}

/** What must be fixed before a form can be rehearsed or released; each leads to its place. */
export function Things({ bench, issues, goTo }: Props) {
  return (
    <>
      <h2 className="mb-2 text-lg">{speak`${issues.length} ${issues.length === 1 ? speak`thing` : speak`things`} to fix first`}</h2>
      <ul className="grid gap-1">
        {issues.map((issue, i) => (
          <Thing key={i} bench={bench} issue={issue} goTo={goTo} />
        ))}
      </ul>
    </>
  );
}

function Thing({ bench, issue, goTo }: Omit<Props, 'issues'> & { readonly issue: Issue }) {
  const [first = '', second = ''] = issue.path.map(String);
  const face =
    {
      checks: 'check',
      steps: 'approve',
      rules: 'approve',
      mails: 'approve',
      store: 'store',
      further: 'store',
    }[first] ?? 'ask';
  const go = () => {
    if (face === 'ask') bench.select(first);
    goTo(face);
  };
  const check = bench.design.checks.find(({ id }) => id === second);
  const number = lineNumbers(bench.design).get(check?.on ?? first) ?? '';
  return (
    <li>
      <button
        type="button"
        onClick={go}
        className="flex gap-2 rounded text-left text-[14px] text-rust hover:underline"
      >
        <span className="min-w-6 font-mono font-semibold">{number}</span>
        <span>
          {labelOf(bench.design, check?.on ?? first)}
          {labelOf(bench.design, check?.on ?? first) !== '' && ': '}
          {issueSentence(issue)}
        </span>
      </button>
    </li>
  );
}
