import { useState } from 'react';
import type { HomeData } from '../../contract/answers-from-server';
import { Age } from '../kit/Age';
import { Bell, FilePlus2, ListChecks, Luggage } from '../kit/icons';
import { when } from '../kit/when';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Forms to fill, what happened, and where one says when one is away. */
export function HomeMargin({ data }: { data: HomeData }) {
  return (
    <aside id="margin" className="margin-pane" aria-labelledby="fill">
      <FormsToFill data={data} />
      {data.mine.length === 0 && data.total === 0 && (
        <div className="margin-part">
          <h2 className="margin-title">
            <ListChecks size={16} aria-hidden />
            {speak`How it goes on`}
          </h2>
          <p className="quiet">{speak`What you send goes to those who decide. Once approved it is kept in the shared tables, where everybody allowed can find it.`}</p>
        </div>
      )}
      {data.happened.length > 0 && (
        <section className="margin-part" aria-labelledby="happened">
          <h2 id="happened" className="margin-title">
            <Bell size={16} aria-hidden />
            {speak`What happened`}
          </h2>
          <ul className="grid gap-2 text-[14px]">
            {data.happened.map(({ id, submission, sentence, at }) => (
              <li key={id}>
                <a href={`/submissions/${submission}`} className="text-ink no-underline hover:underline">
                  {sentence}
                </a>
                <span className="quiet block">
                  <Age iso={at} />
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {data.total > 0 && (
        <section className="margin-part" aria-label={speak`When you are away`}>
          <p className="flex items-center gap-2 text-[14px]">
            <Luggage size={16} aria-hidden className="text-slate-600" />
            <span>{speakIn`Away soon? ${(<a href="/approvals#away" className="font-semibold text-lichen-deep">{speak`Name who stands in`}</a>)}`}</span>
          </p>
        </section>
      )}
    </aside>
  );
}

/** So many at once; who has more forms picks them from all. */
const FEW = 30;

function FormsToFill({ data: { forms } }: { data: HomeData }) {
  const [all, setAll] = useState(false);
  return (
    <div className="margin-part first">
      <h2 id="fill" className="margin-title">
        <FilePlus2 size={16} aria-hidden />
        {speak`Fill in a form`}
      </h2>
      {forms.length === 0 && (
        <p className="quiet">{speak`No form is released yet. Its owner releases it under Forms.`}</p>
      )}
      <ul className="grid gap-1.5">
        {(all ? forms : forms.slice(0, FEW)).map((form) => (
          <li key={form.id}>
            <a href={`/fill/${form.key}`} className="button w-full justify-between">
              <span className="truncate">{form.title}</span>
              <span className="shrink-0 text-[13px] font-normal text-slate-600">
                {form.last === null ? form.area : when(form.last).replace(/ \d{4},.*/, '')}
              </span>
            </a>
          </li>
        ))}
      </ul>
      {!all && forms.length > FEW && (
        <button
          type="button"
          className="button-plain mt-2"
          onClick={() => setAll(true)}
        >{speak`All ${forms.length} forms`}</button>
      )}
    </div>
  );
}
