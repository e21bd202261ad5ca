import { useState } from 'react';
import { newUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { counted } from '../../core/wording/numbers';
import { call, troubleOf } from '../kit/call';
import { FilePen } from '../kit/icons';
import type { Reviewing } from './reviewing';
import { correctionIssues } from './use-correcting';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly review: Reviewing;
  readonly refetch: () => void;
  readonly leave: () => void;
}

/** What is corrected, what it still wants, and the word that goes with it. */
export function CorrectingMargin({ review, refetch, leave }: Props) {
  const [word, setWord] = useState('');
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const [key] = useState(newUuid);
  const { submission, sheet, changes } = review;
  const issues = correctionIssues(review);
  const count = changes?.count ?? 0;
  const first = submission.sender.name.split(' ')[0] ?? '';
  const save = async () => {
    setBusy(true);
    setTrouble('');
    const result = await call('POST', `/api/submissions/${submission.id}/correct`, {
      key,
      version: submission.version,
      step: submission.decidesAt,
      answers: sheet.answers(),
      word,
    }).catch(() => null);
    setBusy(false);
    if (result === null)
      return setTrouble(speak`The server cannot be reached; nothing was saved. Try again in a moment.`);
    if (!result.ok) return setTrouble(troubleOf(result.error));
    leave();
    refetch();
  };
  return (
    <section className="margin-part first" aria-labelledby="correcting">
      <h2 id="correcting" className="margin-title text-ink!">
        <FilePen size={16} aria-hidden />
        {speak`Your correction`}
      </h2>
      <p className="quiet mb-2" role="status">
        {count === 0
          ? speak`Type in the answers that stand in boxes.`
          : speak`${counted(count, 'answer')} corrected.`}
      </p>
      {issues.map(({ line, sentence, reasonFor }) => (
        <div key={`${line} ${sentence}`} className="mb-2 text-[14px]">
          <p className="trouble">
            {line !== '' && <span className="font-mono">{line} </span>}
            {sentence}
          </p>
          {reasonFor !== null && (
            <input
              className="box"
              aria-label={speak`Reason for line ${line}`}
              placeholder={speak`The reason`}
              maxLength={limits.word}
              value={sheet.reason(reasonFor)}
              onChange={(event) => sheet.setReason(reasonFor, event.target.value)}
            />
          )}
        </div>
      ))}
      <textarea
        rows={2}
        className="box"
        maxLength={limits.word}
        aria-label={speak`A word for ${first} about it`}
        placeholder={speak`A word for ${first}: what was put right, and why`}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
      <p className="mt-2 flex flex-wrap gap-2">
        <button
          type="button"
          className="button button-go flex-1"
          disabled={busy || count === 0 || issues.length > 0}
          onClick={() => void save()}
        >{speak`Save the correction`}</button>
        <button type="button" className="button" onClick={leave}>{speak`Leave it as it was`}</button>
      </p>
      <p className="quiet mt-2">{speak`${first} is told. It waits on, and you decide it as it is then; who is asked after you may be others.`}</p>
    </section>
  );
}
