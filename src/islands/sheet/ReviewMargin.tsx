import { needed } from '../../core/approval/path';
import {
  CircleCheck,
  CircleX,
  Database,
  Forward,
  MessageCircle,
  Reply,
  Route,
  Send,
  Undo2,
  type LucideIcon,
  Hourglass,
} from '../kit/icons';
import { groupsOf, type ApprovalStep } from '../../core/form/design';
import { showDate } from '../../core/table/kinds/date';
import { DueWords } from '../kit/DueWords';
import { when } from '../kit/when';
import { Deciding, Saying, TakeBack } from './Deciding';
import type { Reviewing } from './reviewing';

/** The decision, the path so far, and where it is or will be kept. */
export function ReviewMargin({ review, refetch }: { review: Reviewing; refetch: () => void }) {
  return (
    <aside id="margin" className="margin-pane" aria-label="About this submission">
      {review.submission.mayDecide && <Deciding review={review} refetch={refetch} />}
      {!review.submission.mayDecide &&
        review.submission.state === 'waiting' &&
        review.submission.sender.id === review.data.asking.id && (
          <TakeBack review={review} refetch={refetch} />
        )}
      <Path review={review} />
      {review.submission.mayRemark && !review.submission.mayDecide && (
        <Saying review={review} refetch={refetch} />
      )}
      <WhereKept review={review} />
    </aside>
  );
}

const marks: Readonly<Record<string, { verb: string; Icon: LucideIcon; look: string }>> = {
  send: { verb: 'sent it', Icon: Send, look: 'text-slate-700' },
  approve: { verb: 'approved', Icon: CircleCheck, look: 'text-lichen' },
  'send-back': { verb: 'sent it back', Icon: Reply, look: 'text-ochre' },
  decline: { verb: 'declined', Icon: CircleX, look: 'text-rust' },
  withdraw: { verb: 'took it back', Icon: Undo2, look: 'text-slate-700' },
  'hand-over': { verb: 'handed it over', Icon: Forward, look: 'text-slate-700' },
  late: { verb: 'is asked', Icon: Hourglass, look: 'text-rust' },
  remark: { verb: 'says', Icon: MessageCircle, look: 'text-slate-700' },
};

function Path({ review: { submission, data } }: { review: Reviewing }) {
  const steps = data.design.steps;
  const now = steps[submission.step ?? 0];
  const ahead =
    submission.state === 'waiting'
      ? steps.slice((submission.step ?? 0) + 1).filter(({ id }) => !submission.skipped.includes(id))
      : [];
  return (
    <section className="margin-part" aria-labelledby="path">
      <h2 id="path" className="margin-title">
        <Route size={16} aria-hidden />
        Path
      </h2>
      <ol className="grid gap-2.5">
        {submission.events
          .filter(({ kind }) => kind !== 'keep')
          .map((event, i) => {
            const { verb, Icon, look } = marks[event.kind] ?? { verb: event.kind, Icon: Send, look: '' };
            const step = event.step === null ? '' : (steps[event.step]?.label ?? '');
            return (
              <li key={i} className="flex gap-2.5">
                <Icon size={17} aria-hidden className={`mt-0.5 shrink-0 ${look}`} />
                <span className="min-w-0">
                  {step !== '' && event.kind !== 'withdraw' && event.kind !== 'remark' && (
                    <strong>{step} · </strong>
                  )}
                  {event.kind === 'late' ? (
                    `${event.by} is asked, for ${event.for} is late`
                  ) : (
                    <>
                      {event.by} {verb}
                      {event.to !== null && ` to ${event.to}`}
                      {event.for !== null && ` for ${event.for}`}
                    </>
                  )}
                  <span className="quiet block">{when(event.at)}</span>
                  {event.word !== '' && <span className="block break-words">“{event.word}”</span>}
                </span>
              </li>
            );
          })}
        {submission.state === 'waiting' && (
          <li className="flex gap-2.5">
            <span aria-hidden className="mt-0.5 size-4 shrink-0 rounded-full border-2 border-ink bg-marker" />
            <span>
              <strong>{now?.label}</strong> ·{' '}
              {submission.asked
                .map((one) => (one.id === data.asking.id ? 'you' : one.name))
                .join(now?.decide === undefined ? ' or ' : ', ')}
              <span className="quiet block">asked now{now && approvedWords(now, submission)}</span>
              <span className="text-[14px]">
                <DueWords due={submission.due} />
              </span>
              {submission.asked.map(
                ({ id, name, why }) =>
                  why !== null && (
                    <span key={`${id} why`} className="quiet block">
                      {id === data.asking.id ? 'you are asked' : `${name} is asked`}: {why}
                    </span>
                  ),
              )}
              {submission.asked.map(
                ({ id, name, away }) =>
                  away !== null && (
                    <span key={id} className="quiet block">
                      {name} is away until {showDate(away.until)}; {away.standIn} stands in
                    </span>
                  ),
              )}
            </span>
          </li>
        )}
        {ahead.map((step) => (
          <li key={step.id} className="flex gap-2.5 text-slate-600">
            <span
              aria-hidden
              className="mt-0.5 size-4 shrink-0 rounded-full border-2 border-dashed border-slate-400"
            />
            {step.label}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** Of a step that several approve: how many have, and how many must. */
function approvedWords(step: ApprovalStep, { asked, approved }: Reviewing['submission']): string {
  if (step.decide === undefined) return '';
  return ` · ${approved.length} of ${needed(step, approved.length + asked.length)} approvals given`;
}

function WhereKept({ review: { submission, data } }: { review: Reviewing }) {
  if (submission.state === 'declined' || submission.state === 'withdrawn') return null;
  const names = [data.design.table, ...groupsOf(data.design).map((group) => group.table)];
  const kept = submission.state === 'kept';
  return (
    <section className="margin-part" aria-labelledby="where">
      <h2 id="where" className="margin-title">
        <Database size={16} aria-hidden />
        {kept ? 'Kept in' : 'Will be kept in'}
      </h2>
      <ul className="text-[14px]">
        {names.map((table) => (
          <li key={table.id}>
            {kept ? (
              <a
                className="text-lichen underline"
                href={`/tables/${table.key}${table.id === data.design.table.id && submission.recordId ? `?record=${submission.recordId}` : ''}`}
              >
                {table.label}
              </a>
            ) : (
              table.label
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
