import { useQuery } from '@tanstack/react-query';
import { FilePlus2, ListChecks } from '../kit/icons';
import { useCallback } from 'react';
import type { HomeData, SubmissionSummary } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { DueWords } from '../kit/DueWords';
import { SaidLast } from '../kit/SaidLast';
import { StateTag } from '../kit/StateTag';
import { when } from '../kit/when';

export default function HomeView({ initial, name }: { initial: HomeData; name: string }) {
  return (
    <Root>
      <Home initial={initial} name={name} />
    </Root>
  );
}

function Home({ initial, name }: { initial: HomeData; name: string }) {
  const { data, refetch } = useQuery({
    queryKey: ['home'],
    queryFn: () => fetched<HomeData>('/api/home'),
    initialData: initial,
  });
  useLive(
    ['forms'],
    useCallback(() => void refetch(), [refetch]),
  );
  const waiting = data.mine.filter(({ state }) => state === 'sent-back');
  const rest = data.mine.filter(({ state }) => state !== 'sent-back');
  return (
    <>
      <h1 className="pt-5 pb-4 text-2xl">Good day, {name.split(' ')[0]}</h1>
      {data.alone && (
        <p className="mb-3 rounded-md bg-marker-soft px-4 py-2">
          You are the only one here so far.{' '}
          <a href="/people" className="font-semibold text-lichen-deep underline">
            Add your colleagues
          </a>
          : each gets a link from you and chooses a password.
        </p>
      )}
      <div className="sheet-frame">
        <section aria-labelledby="mine" className="py-2">
          <h2 id="mine" className="px-5 py-2 text-xl">
            What you have sent and set aside
          </h2>
          {data.mine.length === 0 && (
            <p className="px-5 pb-4">Nothing yet. Pick a form to begin; what you type keeps itself.</p>
          )}
          <ul>
            {[...waiting, ...rest].map((one) => (
              <Mine key={one.id} one={one} />
            ))}
          </ul>
        </section>
        <aside id="margin" className="margin-pane" aria-labelledby="fill">
          <div className="margin-part first">
            <h2 id="fill" className="margin-title">
              <FilePlus2 size={16} aria-hidden />
              Fill in a form
            </h2>
            {data.forms.length === 0 && (
              <p className="quiet">No form is released yet. Its owner releases it under Forms.</p>
            )}
            <ul className="grid gap-1.5">
              {data.forms.map((form) => (
                <li key={form.id}>
                  <a href={`/fill/${form.key}`} className="button w-full justify-between">
                    <span className="truncate">{form.title}</span>
                    <span className="shrink-0 text-[13px] font-normal text-slate-600">{form.area}</span>
                  </a>
                </li>
              ))}
            </ul>
          </div>
          <div className="margin-part">
            <h2 className="margin-title">
              <ListChecks size={16} aria-hidden />
              How it goes on
            </h2>
            <p className="quiet">
              What you send goes to those who decide. Once approved it is kept in the shared tables, where
              everybody allowed can find it.
            </p>
          </div>
        </aside>
      </div>
    </>
  );
}

function Mine({ one }: { one: SubmissionSummary }) {
  const words = one.state === 'waiting' && one.step !== null ? `Waiting · ${one.step}` : undefined;
  return (
    <li className="border-t border-slate-200">
      <a
        href={`/submissions/${one.id}`}
        className={`grid grid-cols-[150px_minmax(0,1fr)_auto] items-center gap-3 px-5 py-2 text-ink no-underline hover:bg-slate-50 max-sm:grid-cols-1 max-sm:gap-1 ${one.state === 'sent-back' ? 'bg-marker-soft' : ''}`}
      >
        <span className="font-mono text-[14px]">{one.number ?? 'not sent yet'}</span>
        <span className="min-w-0">
          <span className="font-semibold">{one.title}</span>
          {one.changes && <span className="tag ml-2 bg-slate-200">change</span>}
          <span className="block truncate text-[13px] text-slate-600">
            {one.gist || 'nothing typed yet'} · {when(one.at)}
          </span>
          <SaidLast said={one.said} />
        </span>
        <span>
          <StateTag state={one.state} {...(words && { words })} />
          <span className="mt-0.5 text-right text-[13px]">
            <DueWords due={one.due} />
          </span>
        </span>
      </a>
    </li>
  );
}
