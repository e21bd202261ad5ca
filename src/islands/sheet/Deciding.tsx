import { useRef, useState, type ReactNode } from 'react';
import { newUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { call, troubleOf } from '../kit/call';
import { FilePen, Forward, MessageCircle, Reply, Undo2 } from '../kit/icons';
import { personChoices } from '../kit/person-choices';
import { Select } from '../kit/Select';
import { RemarkTools } from './RemarkTools';
import type { Reviewing } from './reviewing';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

type Decision = 'approve' | 'send-back' | 'decline';

function useDecision(review: Reviewing, refetch: () => void) {
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  /** Asked again after a lost answer it is the same; something else has a key of its own. */
  const last = useRef({ asked: '', key: '' });
  const act = async (
    path: 'decide' | 'return' | 'withdraw' | 'hand-over' | 'remark',
    body: object,
  ): Promise<boolean> => {
    setBusy(true);
    setTrouble('');
    const asked = JSON.stringify([path, body]);
    if (last.current.asked !== asked) last.current = { asked, key: newUuid() };
    try {
      const result = await call('POST', `/api/submissions/${review.submission.id}/${path}`, {
        key: last.current.key,
        // A word changes nothing that somebody could have missed.
        ...(path !== 'remark' && { version: review.submission.version }),
        ...body,
      });
      last.current = { asked: '', key: '' };
      if (!result.ok) setTrouble(troubleOf(result.error));
      refetch();
      return result.ok;
    } catch {
      setTrouble(speak`The server cannot be reached; nothing was decided. Try again in a moment.`);
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { trouble, setTrouble, busy, act };
}

/** Approving, sending back or declining, and what else may be done by whoever is asked. */
export function Deciding({
  review,
  refetch,
  onCorrect,
}: {
  review: Reviewing;
  refetch: () => void;
  onCorrect: () => void;
}) {
  const [word, setWord] = useState('');
  const [about, setAbout] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  const { trouble, setTrouble, busy, act } = useDecision(review, refetch);
  const { sender, decidesFor, decidesAt: step, waits } = review.submission;
  const first = sender.name.split(' ')[0];
  const decide = (decision: Decision) => {
    if (decision !== 'approve' && word.trim() === '') {
      setTrouble(
        speak`Write a word for ${first} first: ${decision === 'decline' ? speak`why you decline` : speak`what to change`}.`,
      );
      return field.current?.focus();
    }
    void act('decide', { decision, word, step });
  };
  return (
    <section className="margin-part first" aria-labelledby="decision">
      <h2 id="decision" className="margin-title text-ink!">{speak`Your decision`}</h2>
      {waits.length > 1 && (
        <p className="mb-2 text-[14px]">{speakIn`Of the step ${(<strong>{review.data.design.steps[step ?? -1]?.label}</strong>)}; others are asked at the same time.`}</p>
      )}
      {decidesFor !== null && (
        <p className="mb-2 text-[14px]">{speakIn`For ${(<strong>{decidesFor}</strong>)}, who is away; you stand in.`}</p>
      )}
      <textarea
        ref={field}
        rows={3}
        className="box"
        maxLength={limits.word}
        aria-label={speak`A word for ${first}`}
        placeholder={speak`A word for ${first} (needed to send back or decline)`}
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
        >{speak`Approve`}</button>
        <button
          type="button"
          disabled={busy}
          onClick={() => decide('send-back')}
          className="button"
        >{speak`Send back`}</button>
        <button
          type="button"
          disabled={busy}
          onClick={() => decide('decline')}
          className="button button-stop"
        >{speak`Decline`}</button>
      </div>
      {review.submission.corrects.length > 0 && (
        <button type="button" className="button-plain mt-2" disabled={busy} onClick={onCorrect}>
          <FilePen size={15} aria-hidden />
          {speak`Correct what is wrong instead`}
        </button>
      )}
      <Otherwise
        review={review}
        busy={busy}
        hasWord={word.trim() !== ''}
        tools={<RemarkTools review={review} word={word} onWord={setWord} about={about} onAbout={setAbout} />}
        onSay={() =>
          void act('remark', { word, place: about }).then((said) => {
            if (!said) return;
            setWord('');
            setAbout(null);
          })
        }
        onHandOver={(to) => void act('hand-over', { to, word, step })}
        onReturn={(to) => void act('return', { to, word, step })}
      />
    </section>
  );
}

interface OtherwiseProps {
  readonly review: Reviewing;
  readonly busy: boolean;
  readonly hasWord: boolean;
  /** Whom a word without a decision names, and what it is about. */
  readonly tools: ReactNode;
  readonly onSay: () => void;
  readonly onHandOver: (to: string) => void;
  readonly onReturn: (to: number) => void;
}

/** What may be done with it besides deciding: a word that leaves it waiting, or another who decides it. */
function Otherwise({
  review: { submission, data },
  busy,
  hasWord,
  tools,
  onSay,
  onHandOver,
  onReturn,
}: OtherwiseProps) {
  const [to, setTo] = useState<string | null>(null);
  const [back, setBack] = useState<string | null>(null);
  return (
    <div className="mt-2 border-t border-slate-200 pt-2">
      <button
        type="button"
        className="button-plain"
        disabled={busy || !hasWord}
        title={hasWord ? undefined : speak`Write it above first`}
        onClick={onSay}
      >
        <MessageCircle size={15} aria-hidden />
        {speak`Say it without deciding`}
      </button>
      {hasWord && <div className="mb-2 ml-6">{tools}</div>}
      <div className="text-[14px]">
        <Forward size={15} aria-hidden className="mr-1 inline text-slate-600" />
        {speakIn`Hand it over to ${(
          <Select
            label={speak`To whom`}
            value={to}
            placeholder={speak`somebody`}
            choices={personChoices(submission.handOverTo)}
            onChange={setTo}
          />
        )}`}
        {to !== null && (
          <button
            type="button"
            className="button ml-2"
            disabled={busy}
            onClick={() => onHandOver(to)}
          >{speak`Hand it over`}</button>
        )}
      </div>
      {submission.returnTo.length > 0 && (
        <div className="mt-1 text-[14px]">
          <Reply size={15} aria-hidden className="mr-1 inline text-slate-600" />
          {speakIn`Send it back to ${(
            <Select
              label={speak`To which step`}
              value={back}
              placeholder={speak`an earlier step`}
              choices={submission.returnTo.map((at) => ({
                value: String(at),
                label: data.design.steps[at]?.label ?? '',
              }))}
              onChange={setBack}
            />
          )}`}
          {back !== null && (
            <button
              type="button"
              className="button ml-2"
              disabled={busy || !hasWord}
              title={hasWord ? undefined : speak`Write above what is to be looked at again`}
              onClick={() => onReturn(Number(back))}
            >{speak`Send it there`}</button>
          )}
        </div>
      )}
    </div>
  );
}

/** A word of somebody on the path who has nothing to decide: an answer to what was asked. */
export function Saying({ review, refetch }: { review: Reviewing; refetch: () => void }) {
  const [word, setWord] = useState('');
  const [about, setAbout] = useState<string | null>(null);
  const { trouble, busy, act } = useDecision(review, refetch);
  return (
    <section className="margin-part" aria-labelledby="saying">
      <h2 id="saying" className="margin-title">
        <MessageCircle size={16} aria-hidden />
        {speak`Say something`}
      </h2>
      <textarea
        rows={2}
        className="box"
        maxLength={limits.word}
        aria-label={speak`A word to all on the path`}
        placeholder={speak`An answer, or something to know`}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      <RemarkTools review={review} word={word} onWord={setWord} about={about} onAbout={setAbout} />
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      <button
        type="button"
        className="button mt-1"
        disabled={busy || word.trim() === ''}
        onClick={() =>
          void act('remark', { word, place: about }).then((done) => {
            if (!done) return;
            setWord('');
            setAbout(null);
          })
        }
      >{speak`Say it`}</button>
    </section>
  );
}

export function TakeBack({ review, refetch }: { review: Reviewing; refetch: () => void }) {
  const { trouble, busy, act } = useDecision(review, refetch);
  return (
    <section className="margin-part first" aria-labelledby="waiting">
      <h2 id="waiting" className="margin-title text-ink!">{speak`Waiting for ${review.submission.waits
        .map(({ asked }) => asked.map(({ name }) => name).join(speak` or `))
        .join(speak`, and for `)}`}</h2>
      <p className="quiet mb-2">{speak`If it is not needed any more, you may take it back while nobody has decided it.`}</p>
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      <button type="button" disabled={busy} onClick={() => void act('withdraw', {})} className="button">
        <Undo2 size={15} aria-hidden />
        {speak`Take it back`}
      </button>
    </section>
  );
}
