import { CircleX } from '../kit/icons';
import type { ShownIssue } from './use-fill';

export const troubleId = (path: readonly (string | number)[]): string => `trouble-${path.join('-')}`;

/** What is wrong, beside the answer it concerns. */
export function Troubles({ issues, prefix = '' }: { issues: readonly ShownIssue[]; prefix?: string }) {
  return (
    <>
      {issues.map((one) => (
        <p key={one.key} id={troubleId(one.path)} className="trouble">
          <CircleX size={15} aria-hidden className="mt-0.5 shrink-0" />
          <span className="min-w-0">
            {prefix}
            {one.sentence}
          </span>
        </p>
      ))}
    </>
  );
}
