import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { TokenData, TokensData } from '../../contract/tokens';
import { tokenSentence } from '../../core/wording/token-sentence';
import { Age } from '../kit/Age';
import { fetched } from '../kit/call';
import { KeyRound, Plus } from '../kit/icons';
import { Root } from '../kit/Root';
import { when } from '../kit/when';
import { NewToken } from './NewToken';
import { TokenMargin } from './TokenMargin';
import { namesIn } from './token-names';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function TokensView({ initial }: { initial: TokensData }) {
  return (
    <Root>
      <Tokens initial={initial} />
    </Root>
  );
}

function Tokens({ initial }: { initial: TokensData }) {
  const { data, refetch } = useQuery({
    queryKey: ['tokens'],
    queryFn: () => fetched<TokensData>('/api/tokens'),
    initialData: initial,
  });
  const [inHand, setInHand] = useState<string | 'new' | null>(null);
  const picked = data.tokens.find(({ id }) => id === inHand);
  return (
    <>
      <div className="flex flex-wrap items-center justify-between gap-3 pt-4 pb-4">
        <h1 className="text-2xl">{speak`API tokens`}</h1>
        <span className="flex flex-wrap gap-2">
          <a className="button no-underline" href="/api-guide">{speak`What the API answers`}</a>
          <button type="button" className="button button-dark" onClick={() => setInHand('new')}>
            <Plus size={16} aria-hidden />
            {speak`New token`}
          </button>
        </span>
      </div>
      <div className="sheet-frame">
        <TokenList data={data} inHand={inHand} pick={setInHand} />
        <aside id="margin" className="margin-pane" aria-label={speak`The token in hand`}>
          {inHand === 'new' ? (
            <NewToken data={data} made={() => void refetch()} />
          ) : picked === undefined ? (
            <section className="margin-part first">
              <h2 className="margin-title">{speak`How programs come in`}</h2>
              <p className="text-[14px]">{speak`A token lets one program do a few named things for somebody: what they may themselves, and of that only what the token names. Make one for each program, so that each can be ended by itself.`}</p>
            </section>
          ) : (
            <TokenMargin key={picked.id} data={data} token={picked} done={() => void refetch()} />
          )}
        </aside>
      </div>
    </>
  );
}

interface ListProps {
  readonly data: TokensData;
  readonly inHand: string | null;
  readonly pick: (id: string) => void;
}

function TokenList({ data, inHand, pick }: ListProps) {
  const names = namesIn(data);
  const ordered = [...data.tokens].sort((a, b) => Number(a.state !== 'works') - Number(b.state !== 'works'));
  if (ordered.length === 0)
    return (
      <p className="py-4 pr-5 pl-[46px]">{speakIn`No program comes in yet. ${(<strong>{speak`New token`}</strong>)} makes one its way in; the guide beside it shows what it can ask then.`}</p>
    );
  return (
    <ul aria-label={speak`Tokens`}>
      {ordered.map((token) => (
        <li key={token.id} className="border-b border-slate-200">
          <button
            type="button"
            aria-pressed={inHand === token.id}
            className={`grid w-full grid-cols-[46px_minmax(0,1fr)_auto] items-center gap-2 py-2 pr-5 text-left hover:bg-slate-50 ${inHand === token.id ? 'bg-lichen-soft' : ''}`}
            onClick={() => pick(token.id)}
          >
            <KeyRound size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
            <span className="min-w-0">
              <span
                className={`font-semibold ${token.state === 'works' ? '' : 'text-slate-600 line-through'}`}
              >
                {token.label}
              </span>{' '}
              <span className="quiet">{speak`for ${token.person}`}</span>
              <span className="quiet block">{tokenSentence(token.grants, names)}</span>
            </span>
            <LastUse token={token} />
          </button>
        </li>
      ))}
    </ul>
  );
}

function LastUse({ token: { state, lastUsedAt, expiresAt } }: { token: TokenData }) {
  if (state === 'ended') return <span className="tag bg-slate-200">{speak`Ended`}</span>;
  if (state === 'over') return <span className="tag bg-slate-200">{speak`Over`}</span>;
  return (
    <span className="quiet text-right">
      {lastUsedAt === null ? speak`never used` : <>{speakIn`used ${(<Age iso={lastUsedAt} />)}`}</>}
      <span className="block">{speak`until ${when(expiresAt).replace(/,.*/, '')}`}</span>
    </span>
  );
}
