import type { WaitsAt } from '../../contract/sheet-from-server';
import { needed } from '../../core/approval/path';
import { askedWords } from '../../core/wording/step-sentence';
import {
  CircleCheck,
  CircleX,
  Copy,
  FilePen,
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
import { groupsOf, type ApprovalStep, type FormDesign } from '../../core/form/design';
import { lineNumbers, linesOf } from '../../core/form/numbered-lines';
import { goTo } from './sheet-model';
import { showDate } from '../../core/formats/days';
import { DueWords } from '../kit/DueWords';
import { when } from '../kit/when';
import { lazy, Suspense } from 'react';
import { Deciding, Saying, TakeBack } from './Deciding';
import { ForComparison, OutOfTheUsual } from './ForComparison';
import type { Reviewing } from './reviewing';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const CorrectingMargin = lazy(() =>
  import('./CorrectingMargin').then((module) => ({ default: module.CorrectingMargin })),
);

/** The decision, the path so far, and where it is or will be kept. */
export function ReviewMargin({
  review,
  refetch,
  correct,
}: {
  review: Reviewing;
  refetch: () => void;
  correct: { begin: () => void; leave: () => void };
}) {
  const isOthers = review.submission.sender.id !== review.data.asking.id && review.submission.sentAt !== null;
  return (
    <aside id="margin" className="margin-pane" aria-label={speak`About this submission`}>
      {review.correcting !== undefined ? (
        <Suspense fallback={null}>
          <CorrectingMargin review={review} refetch={refetch} leave={correct.leave} />
        </Suspense>
      ) : (
        review.submission.decidesAt !== null && (
          <Deciding review={review} refetch={refetch} onCorrect={correct.begin} />
        )
      )}
      {review.submission.decidesAt === null &&
        review.submission.state === 'waiting' &&
        review.submission.sender.id === review.data.asking.id && (
          <TakeBack review={review} refetch={refetch} />
        )}
      {isOthers && <OutOfTheUsual review={review} />}
      <Path review={review} />
      {isOthers && <ForComparison review={review} />}
      {review.submission.mayRemark && review.submission.decidesAt === null && (
        <Saying review={review} refetch={refetch} />
      )}
      <WhereKept review={review} />
      <AnotherLikeIt review={review} />
    </aside>
  );
}

const marks = spoken((): Readonly<Record<string, { verb: string; Icon: LucideIcon; look: string }>> => ({
  send: { verb: speak`sent it`, Icon: Send, look: 'text-slate-700' },
  approve: { verb: speak`approved`, Icon: CircleCheck, look: 'text-lichen' },
  'send-back': { verb: speak`sent it back`, Icon: Reply, look: 'text-ochre' },
  return: { verb: speak`sent it back`, Icon: Reply, look: 'text-ochre' },
  decline: { verb: speak`declined`, Icon: CircleX, look: 'text-rust' },
  withdraw: { verb: speak`took it back`, Icon: Undo2, look: 'text-slate-700' },
  'hand-over': { verb: speak`handed it over`, Icon: Forward, look: 'text-slate-700' },
  move: { verb: speak`moved it`, Icon: Forward, look: 'text-ochre' },
  correct: { verb: speak`corrected it`, Icon: FilePen, look: 'text-ochre' },
  lapse: { verb: speak`went on`, Icon: Hourglass, look: 'text-ochre' },
  late: { verb: speak`is asked`, Icon: Hourglass, look: 'text-rust' },
  remark: { verb: speak`says`, Icon: MessageCircle, look: 'text-slate-700' },
}));

function Path({ review: { submission, data } }: { review: Reviewing }) {
  const steps = data.design.steps;
  return (
    <section className="margin-part" aria-labelledby="path">
      <h2 id="path" className="margin-title">
        <Route size={16} aria-hidden />
        {speak`Path`}
      </h2>
      <ol className="grid gap-2.5">
        {submission.events
          .filter(({ kind }) => kind !== 'keep')
          .map((event, i) => {
            const { verb, Icon, look } = marks()[event.kind] ?? { verb: event.kind, Icon: Send, look: '' };
            const step = event.step === null ? '' : (steps[event.step]?.label ?? '');
            return (
              <li key={i} className="flex gap-2.5">
                <Icon size={17} aria-hidden className={`mt-0.5 shrink-0 ${look}`} />
                <span className="min-w-0">
                  {step !== '' && event.kind !== 'withdraw' && event.kind !== 'remark' && (
                    <strong>{step} · </strong>
                  )}
                  {event.kind === 'late' ? (
                    speak`${event.by} is asked, for ${event.for} is late`
                  ) : event.kind === 'lapse' ? (
                    speak`late, and gone on without`
                  ) : event.kind === 'move' ? (
                    speak`${event.by} had ${event.to} decide it${event.toStep === null ? '' : speak` at ${steps[event.toStep]?.label ?? ''}`}`
                  ) : (
                    <>
                      {event.by}
                      {event.through !== null && speak`, through ${event.through},`} {verb}
                      {event.place !== null && <AboutLine place={event.place} design={data.design} />}
                      {event.to !== null && speak` to ${event.to}`}
                      {event.toStep !== null && speak` to ${steps[event.toStep]?.label ?? ''}`}
                      {event.for !== null && speak` for ${event.for}`}
                    </>
                  )}
                  <span className="quiet block">{when(event.at)}</span>
                  {event.word !== '' && <span className="block break-words">“{event.word}”</span>}
                </span>
              </li>
            );
          })}
        {submission.waits.map((one) => (
          <Waits key={one.step} step={steps[one.step]} waits={one} me={data.asking.id} />
        ))}
        {submission.ahead.map(({ step, asked }) => {
          const next = steps[step];
          return (
            <li key={step} className="flex gap-2.5 text-slate-600">
              <span
                aria-hidden
                className="mt-0.5 size-4 shrink-0 rounded-full border-2 border-dashed border-slate-400"
              />
              <span className="min-w-0">
                {next?.label}
                {next !== undefined && asked.length > 0 && (
                  <span className="quiet block">{askedWords(next, asked)}</span>
                )}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** The line a word is about; clicked, one is there. */
function AboutLine({ place, design }: { readonly place: string; readonly design: FormDesign }) {
  const [question = ''] = place.split('/');
  const number = lineNumbers(design).get(question);
  if (number === undefined) return null;
  const line = [...linesOf(design).values()]
    .flat()
    .find((one) => one.questions.some(({ id }) => id === question));
  return (
    <>
      {' '}
      {speakIn`about ${(<button type="button" className="name font-mono" onClick={() => goTo([line?.id ?? question])}>{speak`line ${number}`}</button>)}`}
    </>
  );
}

/** A step that is asked now: whom, until when, and why them. */
function Waits({
  step,
  waits: { asked, approved, due },
  me,
}: {
  readonly step: ApprovalStep | undefined;
  readonly waits: WaitsAt;
  readonly me: string;
}) {
  return (
    <li className="flex gap-2.5">
      <span aria-hidden className="mt-0.5 size-4 shrink-0 rounded-full border-2 border-ink bg-marker" />
      <span>
        <strong>{step?.label}</strong> ·{' '}
        {asked
          .map((one) => (one.id === me ? speak`you` : one.name))
          .join(step?.decide === undefined ? speak` or ` : ', ')}
        <span className="quiet block">{speakIn`asked now${
          step?.decide !== undefined &&
          speak` · ${approved} of ${needed(step, approved + asked.length)} approvals given`
        }`}</span>
        <span className="text-[14px]">
          <DueWords due={due} />
        </span>
        {asked.map(
          ({ id, name, why }) =>
            why !== null && (
              <span key={`${id} why`} className="quiet block">
                {id === me ? speak`you are asked` : speak`${name} is asked`}: {why}
              </span>
            ),
        )}
        {asked.map(
          ({ id, name, away }) =>
            away !== null && (
              <span
                key={id}
                className="quiet block"
              >{speak`${name} is away until ${showDate(away.until)}; ${away.standIn} stands in`}</span>
            ),
        )}
      </span>
    </li>
  );
}

/** Its sender begins another with the same answers. */
function AnotherLikeIt({ review: { submission, data } }: { review: Reviewing }) {
  if (submission.sender.id !== data.asking.id || submission.changes) return null;
  return (
    <section className="margin-part" aria-label={speak`Another like it`}>
      <a href={`/fill/${data.formKey}?like=${submission.id}`} className="button w-full justify-start">
        <Copy size={15} aria-hidden />
        {speak`Fill in another like this`}
      </a>
    </section>
  );
}

function WhereKept({ review: { submission, data } }: { review: Reviewing }) {
  if (submission.state === 'declined' || submission.state === 'withdrawn') return null;
  const names = [data.design.table, ...groupsOf(data.design).map((group) => group.table)];
  const kept = submission.state === 'kept';
  return (
    <section className="margin-part" aria-labelledby="where">
      <h2 id="where" className="margin-title">
        <Database size={16} aria-hidden />
        {kept ? speak`Kept in` : speak`Will be kept in`}
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
