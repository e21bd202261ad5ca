import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import type { WaitingCase, WaitingCases } from '../../contract/waiting-cases';
import { counted } from '../../core/wording/numbers';
import { Age } from '../kit/Age';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { useToMargin } from '../kit/use-to-margin';
import { CaseMargin } from './CaseMargin';
import { SeveralCases } from './SeveralCases';
import { speak } from '../../core/wording/speak';

export default function CasesView({ initial }: { initial: WaitingCases }) {
  return (
    <Root>
      <Cases initial={initial} />
    </Root>
  );
}

function Cases({ initial }: { initial: WaitingCases }) {
  const [words, setWords] = useState('');
  const { data = initial, refetch } = useQuery({
    queryKey: ['cases', words],
    queryFn: () => fetched<WaitingCases>(`/api/cases?words=${encodeURIComponent(words)}`),
    ...(words === '' && { initialData: initial }),
    placeholderData: (before) => before,
  });
  useLive(
    [],
    useCallback(() => void refetch(), [refetch]),
  );
  const [inHand, setInHand] = useState<string | null>(null);
  useToMargin(inHand);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [said, setSaid] = useState<readonly string[]>([]);
  const stuck = data.cases.filter(isStuck).length;
  const picked = data.cases.find(({ id }) => id === inHand) ?? null;
  // What is decided meanwhile is no longer there to be moved.
  const several = data.cases.filter(({ id }) => ticked.has(id));
  const tick = (id: string, is: boolean) =>
    setTicked((before) => new Set(is ? [...before, id] : [...before].filter((one) => one !== id)));
  return (
    <>
      <p className="pt-4 text-[14px]">
        <a href="/people">{speak`People`}</a>
      </p>
      <h1 className="pb-1 text-2xl">{speak`Everything that waits`}</h1>
      <p className="quiet pb-3" role="status">
        {stuck === 0
          ? speak`Somebody can decide each of these.`
          : speak`${counted(stuck, 'of them stays', 'of them stay')} where ${stuck === 1 ? speak`it is` : speak`they are`}: ${stuck === 1 ? speak`it stands` : speak`they stand`} first.`}
      </p>
      <div className="sheet-frame">
        <div>
          <div className="border-b border-slate-200 py-2 pr-5 pl-[46px] max-sm:pl-3">
            <input
              type="search"
              aria-label={speak`Find by number, form or sender`}
              placeholder={speak`Find by number, form or sender`}
              className="box max-w-sm"
              maxLength={200}
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
          </div>
          {data.cases.length === 0 && (
            <p className="py-4 pr-5 pl-[46px] max-sm:pl-3">
              {words === ''
                ? speak`Nothing waits to be decided.`
                : speak`Nothing that waits has these words.`}
            </p>
          )}
          <div role="status">
            {said.length > 0 && (
              <ul className="border-b border-slate-200 py-2 pr-5 pl-[46px] text-[14px] max-sm:pl-3">
                {said.map((line) => (
                  <li key={line} className="break-words">
                    {line}
                  </li>
                ))}
              </ul>
            )}
          </div>
          <ul aria-label={speak`What waits`}>
            {data.cases.map((one) => (
              <CaseLine
                key={one.id}
                one={one}
                inHand={one.id === inHand}
                onPick={() => setInHand(one.id)}
                ticked={ticked.has(one.id)}
                onTick={(is) => tick(one.id, is)}
              />
            ))}
          </ul>
          {data.more && (
            <p className="quiet py-3 pl-[46px] max-sm:pl-3">{speak`More wait than are shown; find them by words.`}</p>
          )}
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`What is in hand`}>
          {several.length > 0 ? (
            <SeveralCases
              data={data}
              cases={several}
              done={(moved, words) => {
                setSaid(words);
                for (const id of moved) tick(id, false);
                void refetch();
              }}
            />
          ) : picked === null ? (
            <section className="margin-part first">
              <h2 className="margin-title">{speak`When something stays where it is`}</h2>
              <p className="text-[14px]">{speak`Pick it to have somebody else decide it, or to take it to another step. The reason stands in its path, for all who see it. What was answered is not shown here. Tick several to have one person decide them all.`}</p>
            </section>
          ) : (
            <CaseMargin key={picked.id} data={data} one={picked} done={() => void refetch()} />
          )}
        </aside>
      </div>
    </>
  );
}

const isStuck = ({ waits }: WaitingCase): boolean =>
  waits.some(({ stuck, trouble }) => stuck || trouble !== null);

function CaseLine({
  one,
  inHand,
  onPick,
  ticked,
  onTick,
}: {
  readonly one: WaitingCase;
  readonly inHand: boolean;
  readonly onPick: () => void;
  readonly ticked: boolean;
  readonly onTick: (is: boolean) => void;
}) {
  return (
    <li className={`flex border-b border-slate-200 hover:bg-slate-50 ${inHand ? 'bg-lichen-soft' : ''}`}>
      <label className="flex w-[46px] shrink-0 justify-center py-2.5 max-sm:w-9">
        <input
          type="checkbox"
          aria-label={speak`Move ${one.number}`}
          checked={ticked}
          onChange={(event) => onTick(event.target.checked)}
        />
      </label>
      <button
        type="button"
        aria-pressed={inHand}
        className="grid w-full min-w-0 grid-cols-[minmax(0,1fr)_auto] gap-2 py-2 pr-5 text-left"
        onClick={onPick}
      >
        <span className="min-w-0">
          <span className="font-mono font-semibold">{one.number}</span>{' '}
          <span className="font-semibold">{one.title}</span>{' '}
          <span className="quiet">{speak`from ${one.sender.name}`}</span>
          {one.waits.map(({ step, asked, stuck, trouble }) => (
            <span
              key={step}
              className={`block text-[14px] ${stuck || trouble !== null ? 'text-rust' : 'text-slate-600'}`}
            >
              {one.steps[step]} ·{' '}
              {asked
                .map(({ name, ended }) => (ended ? speak`${name}, who has left` : name))
                .join(speak` or `) || speak`nobody`}
              {trouble !== null && speak` · It is late and could not go on without them: ${trouble}`}
            </span>
          ))}
        </span>
        <span className="quiet text-right">
          {isStuck(one) && <span className="tag bg-marker">{speak`Stays where it is`}</span>}
          <span className="block">
            <Age iso={one.waits[0]?.since ?? ''} />
          </span>
        </span>
      </button>
    </li>
  );
}
