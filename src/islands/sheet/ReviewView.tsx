import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import type { SheetData, SubmissionData } from '../../contract/sheet-from-server';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { StateTag } from '../kit/StateTag';
import { when } from '../kit/when';
import { AfterWords } from './AfterWords';
import { PrintButton } from './PrintButton';
import { titleOf } from './sheet-title';
import { ReviewMargin } from './ReviewMargin';
import { SheetShown } from './SheetShown';
import { usePatterns } from './use-patterns';
import { counted } from '../../core/wording/numbers';
import { useCorrecting } from './use-correcting';
import { lineAtPlace } from './sheet-model';
import { reviewOf, type Reviewing } from './reviewing';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function ReviewView({ data, justSent }: { data: SheetData; justSent: boolean }) {
  return (
    <Root>
      <Review initial={data} justSent={justSent} />
    </Root>
  );
}

function Review({ initial, justSent }: { initial: SheetData; justSent: boolean }) {
  const id = initial.submission?.id ?? '';
  const { data, refetch } = useQuery({
    queryKey: ['submission', id],
    queryFn: () => fetched<SheetData>(`/api/submissions/${id}`),
    initialData: initial,
  });
  useLive(
    [`submission:${id}`],
    useCallback(() => void refetch(), [refetch]),
  );
  const first = useMemo(() => reviewOf(data), [data]);
  const patterns = usePatterns(first?.sheet.form.usesPatterns ?? false);
  const looked = useMemo(() => (patterns ? reviewOf(data) : first), [data, first, patterns]);
  const { review, begin, leave } = useCorrecting(looked);
  if (review === null) return null;
  const { submission, changes } = review;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div className="min-w-0">
          <p className="quiet">
            {submission.sender.id === data.asking.id ? (
              <a href="/" className="crumb">{speak`Home`}</a>
            ) : (
              <a href="/approvals" className="crumb">{speak`Approvals`}</a>
            )}
            {data.design.area !== '' && ` · ${data.design.area}`}
          </p>
          <h1 className="text-[23px]">
            {titleOf(data)}{' '}
            <span className="align-middle font-sans">
              <StateTag
                state={submission.state}
                words={stateWords(submission, data)}
                forYou={submission.decidesAt !== null}
              />
            </span>
          </h1>
        </div>
        <PrintButton />
      </div>
      {justSent && (
        <p role="status" className="mb-3 rounded-md bg-lichen-soft px-4 py-2 font-semibold text-lichen-deep">
          {sentWords(submission)}
          <AfterWords data={data} />
        </p>
      )}
      <div className="sheet-frame">
        <div>
          <div className="flex flex-wrap gap-x-6 gap-y-1 border-b border-slate-200 py-2.5 pl-[46px] text-[14px]">
            <span>{speakIn`From ${(<strong>{submission.sender.name}</strong>)}${submission.sender.place !== '' && `, ${submission.sender.place}`}`}</span>
            {submission.sentAt !== null && <span>{speak`Sent ${when(submission.sentAt)}`}</span>}
            {changes !== null && changes.count > 0 && (
              <span className="marked">{changesWords(review, changes.count)}</span>
            )}
          </div>
          <Met review={review} />
          <SheetShown review={review} />
        </div>
        <ReviewMargin review={review} refetch={() => void refetch()} correct={{ begin, leave }} />
      </div>
    </>
  );
}

/** What the marks are of. */
function changesWords({ submission, correcting }: Reviewing, count: number): string {
  const answers = counted(count, 'answer');
  if (correcting !== undefined || submission.corrected) return speak`Corrected: ${answers}`;
  return submission.changes ? speak`Changes the record: ${answers}` : speak`Sent again: ${answers} changed`;
}

const sentWords = ({ changes, state, number }: SubmissionData): string =>
  !changes
    ? speak`Sent as ${number ?? ''}. You can follow its path here and on Home.`
    : state === 'kept'
      ? speak`${number ?? ''} is changed. What it was before stands struck through.`
      : speak`The change of ${number ?? ''} was sent. You can follow its path here and on Home.`;

function stateWords(submission: SubmissionData, data: SheetData): string {
  if (submission.decidesAt !== null) return speak`Waiting for you`;
  if (submission.state === 'waiting')
    return speak`Waiting · ${submission.waits.map(({ step }) => data.design.steps[step]?.label ?? '').join(speak` and `)}`;
  return {
    draft: speak`Draft`,
    'sent-back': speak`Sent back`,
    kept: data.design.steps.length === 0 ? speak`Kept` : speak`Approved and kept`,
    declined: speak`Declined`,
    withdrawn: speak`Taken back`,
    waiting: '',
  }[submission.state];
}

/** That somebody has changed what this would change as well: it cannot be kept until its sender has said which stands. */
function Met({ review: { data, sheet, submission } }: { review: Reviewing }) {
  const clashes = data.record?.clashes ?? [];
  if (clashes.length === 0 || submission.state === 'kept') return null;
  const lines = clashes.map((place) => lineAtPlace(data.design, sheet, place)).join(', ');
  return (
    <p
      role="status"
      className="border-b border-slate-200 bg-marker-soft py-2 pl-[46px] text-[14px]"
    >{speakIn`${(<strong>{speak`Somebody else changed line ${lines} since.`}</strong>)} Send it back, so that ${submission.sender.name} can say which of the two stands.`}</p>
  );
}
