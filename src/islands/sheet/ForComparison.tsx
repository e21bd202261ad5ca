import { useQuery } from '@tanstack/react-query';
import type { PastCases } from '../../contract/past-cases';
import type { SubmissionState } from '../../core/approval/path';
import { groupsOf } from '../../core/form/design';
import { lineOf } from '../../core/form/line';
import { showDate } from '../../core/formats/days';
import { beyondSentence } from '../../core/wording/beyond-sentence';
import { fetched } from '../kit/call';
import { History, TriangleAlert } from '../kit/icons';
import { StateTag } from '../kit/StateTag';
import type { Reviewing } from './reviewing';
import { goTo } from './sheet-model';
import { speak } from '../../core/wording/speak';

/** What this is held against. It comes after the rest: nobody waits for it to read the sheet. */
function usePast({ submission: { id, version } }: Reviewing): PastCases | undefined {
  const { data } = useQuery({
    queryKey: ['past', id, version],
    queryFn: () => fetched<PastCases>(`/api/submissions/${id}/past`),
    staleTime: Infinity,
  });
  return data;
}

/** Figures that lie far beyond what is usual. */
export function OutOfTheUsual({ review }: { review: Reviewing }) {
  const beyond = usePast(review)?.beyond ?? [];
  return beyond.length > 0 && <Beyond review={review} beyond={beyond} />;
}

/** What was sent before that is like this. */
export function ForComparison({ review }: { review: Reviewing }) {
  const past = usePast(review);
  return past !== undefined && past.by !== null && <Cases by={past.by} past={past} />;
}

function Beyond({ review, beyond }: { review: Reviewing; beyond: PastCases['beyond'] }) {
  return (
    <section className="margin-part" aria-labelledby="unusual">
      <h2 id="unusual" className="margin-title text-ochre!">
        <TriangleAlert size={16} aria-hidden />
        {speak`Out of the usual`}
      </h2>
      <ul className="text-[14px]">
        {beyond.map((one) => (
          <li key={one.place.join('/')} className="mb-1.5 rounded bg-ochre-soft px-2 py-1">
            <Line review={review} place={one.place} />
            {beyondSentence(one)}.
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The number of its line; clicked, one is there. */
function Line({ review, place }: { review: Reviewing; place: readonly string[] }) {
  const { design } = review.data;
  const [first = ''] = place;
  // A total stands under the rows it is of.
  const group = groupsOf(design).find(({ totals }) => totals.some(({ id }) => id === first));
  const at = group === undefined ? place : [group.id];
  return (
    <>
      <button
        type="button"
        className="name font-mono"
        onClick={() => goTo(at)}
      >{speak`line ${lineOf(design, (of) => review.sheet.rows(of), at)}`}</button>{' '}
    </>
  );
}

function Cases({ by, past: { figure, cases } }: { by: NonNullable<PastCases['by']>; past: PastCases }) {
  return (
    <section className="margin-part" aria-labelledby="comparison">
      <h2 id="comparison" className="margin-title">
        <History size={16} aria-hidden />
        {speak`For comparison`}
      </h2>
      <p className="mb-1 text-[14px]">
        {by.label} <strong>{by.shown}</strong>
        {cases.length === 0 && speak`: nothing else was sent that you may see`}
      </p>
      {cases.length > 0 && (
        <table className="w-full text-[14px]">
          <thead>
            <tr className="border-b border-slate-300 text-left text-[13px] text-slate-600">
              <th className="py-1 font-semibold">{speak`Sent`}</th>
              <th className="py-1 text-right font-semibold">{figure}</th>
              <th className="py-1 pl-3 font-semibold">{speak`Result`}</th>
            </tr>
          </thead>
          <tbody>
            {cases.map((one) => (
              <tr key={one.id} className="border-b border-slate-200">
                <td className="py-1">
                  <a className="text-lichen underline" href={`/submissions/${one.id}`}>
                    {showDate(one.sentAt.slice(0, 10))}
                  </a>
                </td>
                <td className="tabular py-1 text-right">{one.figure}</td>
                <td className="py-1 pl-3">
                  <StateTag
                    state={one.state as SubmissionState}
                    forYou={false}
                    {...(one.state === 'sent-back' && { words: speak`Sent back` })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
