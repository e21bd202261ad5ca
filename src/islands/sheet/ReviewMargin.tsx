import { needed } from '../../core/approval/path';
import { CircleCheck, CircleX, Database, Reply, Route, Send, Undo2, type LucideIcon } from '../kit/icons';
import { useRef, useState } from 'react';
import { groupsOf, type ApprovalStep } from '../../core/form/design';
import { call } from '../kit/call';
import { when } from '../kit/when';
import type { Reviewing } from './reviewing';
import { newUuid } from '../../core/kernel/ids';

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
      <WhereKept review={review} />
    </aside>
  );
}

type Decision = 'approve' | 'send-back' | 'decline';

function useDecision(review: Reviewing, refetch: () => void) {
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const key = useRef('');
  const act = async (path: 'decide' | 'withdraw', body: object) => {
    setBusy(true);
    setTrouble('');
    if (key.current === '') key.current = newUuid();
    try {
      const result = await call('POST', `/api/submissions/${review.submission.id}/${path}`, {
        key: key.current,
        version: review.submission.version,
        ...body,
      });
      key.current = '';
      if (!result.ok)
        setTrouble(
          (result.error.issues ?? []).map(({ sentence }) => sentence).join('. ') || result.error.title,
        );
      refetch();
    } catch {
      setTrouble('The server cannot be reached; nothing was decided. Try again in a moment.');
    } finally {
      setBusy(false);
    }
  };
  return { trouble, setTrouble, busy, act };
}

function Deciding({ review, refetch }: { review: Reviewing; refetch: () => void }) {
  const [word, setWord] = useState('');
  const field = useRef<HTMLTextAreaElement>(null);
  const { trouble, setTrouble, busy, act } = useDecision(review, refetch);
  const first = review.submission.sender.name.split(' ')[0];
  const decide = (decision: Decision) => {
    if (decision !== 'approve' && word.trim() === '') {
      setTrouble(
        `Write a word for ${first} first: ${decision === 'decline' ? 'why you decline' : 'what to change'}.`,
      );
      return field.current?.focus();
    }
    void act('decide', { decision, word });
  };
  return (
    <section className="margin-part first" aria-labelledby="decision">
      <h2 id="decision" className="margin-title text-ink!">
        Your decision
      </h2>
      <textarea
        ref={field}
        rows={3}
        className="box"
        aria-label={`A word for ${first}`}
        placeholder={`A word for ${first} (needed to send back or decline)`}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      <div className="mt-2 flex flex-wrap gap-2">
        <button
          type="button"
          disabled={busy}
          onClick={() => decide('approve')}
          className="button button-go flex-1"
        >
          Approve
        </button>
        <button type="button" disabled={busy} onClick={() => decide('send-back')} className="button">
          Send back
        </button>
        <button
          type="button"
          disabled={busy}
          onClick={() => decide('decline')}
          className="button button-stop"
        >
          Decline
        </button>
      </div>
    </section>
  );
}

function TakeBack({ review, refetch }: { review: Reviewing; refetch: () => void }) {
  const { trouble, busy, act } = useDecision(review, refetch);
  return (
    <section className="margin-part first" aria-labelledby="waiting">
      <h2 id="waiting" className="margin-title text-ink!">
        Waiting for {review.submission.asked.map(({ name }) => name).join(' or ')}
      </h2>
      <p className="quiet mb-2">
        If it is not needed any more, you may take it back while nobody has decided it.
      </p>
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      <button type="button" disabled={busy} onClick={() => void act('withdraw', {})} className="button">
        <Undo2 size={15} aria-hidden />
        Take it back
      </button>
    </section>
  );
}

const marks: Readonly<Record<string, { verb: string; Icon: LucideIcon; look: string }>> = {
  send: { verb: 'sent it', Icon: Send, look: 'text-slate-700' },
  approve: { verb: 'approved', Icon: CircleCheck, look: 'text-lichen' },
  'send-back': { verb: 'sent it back', Icon: Reply, look: 'text-ochre' },
  decline: { verb: 'declined', Icon: CircleX, look: 'text-rust' },
  withdraw: { verb: 'took it back', Icon: Undo2, look: 'text-slate-700' },
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
                  {step !== '' && event.kind !== 'withdraw' && <strong>{step} · </strong>}
                  {event.by} {verb}
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
  return ` · ${approved} of ${needed(step, approved + asked.length)} approvals given`;
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
