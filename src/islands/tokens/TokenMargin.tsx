import { useState } from 'react';
import type { TokenData, TokensData } from '../../contract/tokens';
import { tokenSentence } from '../../core/wording/token-sentence';
import { Age } from '../kit/Age';
import { call } from '../kit/call';
import { Said } from '../kit/Said';
import { useSaying } from '../kit/use-saying';
import { when } from '../kit/when';
import { namesIn } from './token-names';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly data: TokensData;
  readonly token: TokenData;
  readonly done: () => void;
}

/** A token in hand: what it may, who made it, when it was used, and its end. */
export function TokenMargin({ data, token, done }: Props) {
  const [sure, setSure] = useState(false);
  const { saying, say } = useSaying();
  const { id, label, person, hint, madeBy, madeAt, expiresAt, lastUsedAt, state, grants } = token;
  return (
    <section className="margin-part first" aria-labelledby="in-hand">
      <h2 id="in-hand" className="margin-title">
        {label}
      </h2>
      <p className="mb-2 text-[14px]">{tokenSentence(grants, namesIn(data))}.</p>
      <dl className="mb-3 grid grid-cols-[7rem_minmax(0,1fr)] gap-y-1 text-[14px]">
        <dt className="text-slate-600">{speak`Acts for`}</dt>
        <dd>{person}</dd>
        <dt className="text-slate-600">{speak`Secret`}</dt>
        <dd className="font-mono">… {hint}</dd>
        <dt className="text-slate-600">{speak`Made`}</dt>
        <dd>{speak`${when(madeAt)} by ${madeBy}`}</dd>
        <dt className="text-slate-600">{speak`Last used`}</dt>
        <dd>{lastUsedAt === null ? speak`never` : <Age iso={lastUsedAt} />}</dd>
        <dt className="text-slate-600">{speak`Works until`}</dt>
        <dd>{when(expiresAt)}</dd>
      </dl>
      {state === 'works' ? (
        <button
          type="button"
          className="button button-stop"
          disabled={saying.busy}
          onBlur={() => setSure(false)}
          onClick={() =>
            sure ? void say(() => call('DELETE', `/api/tokens/${id}`), speak`Ended.`, done) : setSure(true)
          }
        >
          {sure ? speak`End it: its program is shut out at once` : speak`End it now`}
        </button>
      ) : (
        <p className="text-[14px]">{speak`${state === 'ended' ? speak`It was ended.` : speak`Its time is over.`} What was done by it stays in the history.`}</p>
      )}
      <Said saying={saying} />
    </section>
  );
}
