import { goTo } from './sheet-model';
import type { ShownIssue } from './use-fill';

/** What is left to fix, a line each, which leads to its place. */
export function ToFix({ issues }: { issues: readonly ShownIssue[] }) {
  return issues.map((one) => (
    <li key={one.key}>
      <button
        type="button"
        onClick={() => goTo(one.path)}
        className="flex w-full gap-2 rounded text-left text-[14px] text-rust hover:underline"
      >
        <span className="min-w-6 font-mono font-semibold">{one.line}</span>
        <span className="min-w-0">{one.sentence}</span>
      </button>
    </li>
  ));
}
