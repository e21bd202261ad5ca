import { goTo } from './sheet-model';
import type { ShownIssue } from './use-fill';

/** What is left to fix, a line each, which leads to its place. */
export function ToFix({ issues }: { issues: readonly ShownIssue[] }) {
  // Sentences begin below one another, also where one stands at 3a.1.
  const minWidth = `${Math.max(2, ...issues.map(({ line }) => line.length))}ch`;
  return issues.map((one) => (
    <li key={one.key}>
      <button
        type="button"
        onClick={() => goTo(one.path)}
        className="flex w-full gap-2 rounded text-left text-[14px] text-rust hover:underline"
      >
        <span className="shrink-0 font-mono font-semibold" style={{ minWidth }}>
          {one.line}
        </span>
        <span className="min-w-0">{one.sentence}</span>
      </button>
    </li>
  ));
}
