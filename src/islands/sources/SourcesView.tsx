import { useQuery } from '@tanstack/react-query';
import { Database, ListTree, Plug } from '../kit/icons';
import { useState } from 'react';
import type { SourcesData } from '../../contract/sources';
import { addressText } from '../../core/link/source';
import { fetched } from '../kit/call';
import { Root } from '../kit/Root';
import { SourceFields } from './SourceFields';
import { speak } from '../../core/wording/speak';

export default function SourcesView({ initial }: { initial: SourcesData }) {
  return (
    <Root>
      <Sources initial={initial} />
    </Root>
  );
}

function Sources({ initial }: { initial: SourcesData }) {
  const { data } = useQuery({
    queryKey: ['sources'],
    queryFn: () => fetched<SourcesData>('/api/sources'),
    initialData: initial,
  });
  const [adding, setAdding] = useState(false);
  return (
    <>
      <p className="quiet pt-4">
        <a href="/tables" className="crumb">{speak`Tables`}</a>
      </p>
      <div className="flex flex-wrap items-center justify-between gap-3 pb-4">
        <h1 className="text-2xl">{speak`Sources outside`}</h1>
        {data.mayAdminister && !adding && (
          <button type="button" className="button button-dark" onClick={() => setAdding(true)}>
            <Plug size={16} aria-hidden />
            {speak`New source`}
          </button>
        )}
      </div>
      <div className="sheet-frame">
        <section aria-label={speak`All sources`}>
          {adding && (
            <div className="border-b border-slate-300 p-5">
              <h2 className="mb-3 text-[19px]">{speak`New source`}</h2>
              <SourceFields
                source={null}
                onKept={(id) => location.assign(`/sources/${id}`)}
                onCancel={() => setAdding(false)}
              />
            </div>
          )}
          {data.sources.length === 0 && !adding && (
            <p className="p-5">{speak`No source yet. ${
              data.mayAdminister
                ? speak`Begin with New source: where it is, and its secret. Nothing is linked by that.`
                : speak`An administrator sets one up; then you link what you need of it.`
            }`}</p>
          )}
          <ul>
            {data.sources.map((source) => (
              <SourceLine key={source.id} source={source} />
            ))}
          </ul>
        </section>
        <aside id="margin" className="margin-pane" aria-label={speak`About sources`}>
          <div className="margin-part first">
            <h2 className="margin-title">{speak`What linking does`}</h2>
            <p className="quiet">{speak`A table of another PostgreSQL database, or a list at a JSON address, becomes a table here: forms pick from it, references hold, and it is refreshed by itself. While its source does not answer, the last good copy is used, and its age is shown.`}</p>
          </div>
          <div className="margin-part">
            <h2 className="margin-title">{speak`Who may do what`}</h2>
            <p className="quiet">{speak`Administrators set up sources. Owners link tables of them. Secrets are kept encrypted and are shown to nobody, also not to those who gave them.`}</p>
          </div>
        </aside>
      </div>
    </>
  );
}

function SourceLine({
  source: { id, label, address, tables, failing },
}: {
  source: SourcesData['sources'][number];
}) {
  const Icon = address.t === 'database' ? Database : ListTree;
  return (
    <li className="border-b border-slate-200">
      <a
        href={`/sources/${id}`}
        className="grid grid-cols-[46px_minmax(0,1fr)_auto] items-center gap-2 py-2.5 pr-5 text-ink no-underline hover:bg-slate-50"
      >
        <Icon size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
        <span className="min-w-0">
          <span className="font-semibold">{label}</span>
          <span className="quiet block break-words">
            {address.t === 'database' ? speak`PostgreSQL database` : speak`JSON list`} ·{' '}
            {addressText(address)}
          </span>
        </span>
        <span className="text-right text-[14px]">
          {tables.length === 0 ? (
            <span className="quiet">{speak`nothing linked yet`}</span>
          ) : (
            tables.join(', ')
          )}
          {failing > 0 && (
            <span className="block">
              <span className="marked">
                {failing === 1 ? speak`one cannot be refreshed` : speak`${failing} cannot be refreshed`}
              </span>
            </span>
          )}
        </span>
      </a>
    </li>
  );
}
