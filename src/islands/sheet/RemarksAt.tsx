import type { ShownSheet } from './reviewing';
import { speak } from '../../core/wording/speak';

/** What was said about a line, right below it. */
export function RemarksAt({
  review,
  questions,
}: {
  readonly review: ShownSheet;
  readonly questions: readonly string[];
}) {
  const said = (review.data.submission?.events ?? []).filter(
    ({ kind, place }) => kind === 'remark' && place !== null && questions.includes(place.split('/')[0] ?? ''),
  );
  if (said.length === 0) return null;
  return (
    <ul
      aria-label={speak`Said about this line`}
      className="mt-1.5 grid gap-1 border-l-3 border-plum pl-2.5 text-[14px]"
    >
      {said.map(({ by, word, at }) => (
        <li key={at} className="break-words">
          <strong className="text-plum">{by}</strong> <bdi>{word}</bdi>
        </li>
      ))}
    </ul>
  );
}
