import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { FormDesign } from '../../core/form/design';
import { call, fetched } from '../kit/call';
import { Undo2 } from '../kit/icons';
import { sayWithUndo } from '../kit/say';
import { when } from '../kit/when';
import { Differences } from './Different';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

interface Released {
  readonly design: FormDesign;
  readonly before: FormDesign | null;
}

/** The releases so far: what each changed, and the way back to it. */
export function Releases({ bench }: { bench: Workbench }) {
  const { releases, id } = bench.data;
  const [open, setOpen] = useState<number | null>(null);
  const [newest] = releases;
  const goBack = async (number: number) => {
    const result = await call<Released>('GET', `/api/forms/${id}/releases/${number}`);
    if (!result.ok) return;
    bench.edit(() => result.value.design);
    sayWithUndo(
      speak`The draft is as release ${number} was; release it when you have looked it over`,
      bench.undo,
    );
  };
  return (
    <section className="margin-part" aria-labelledby="releases">
      <h2 id="releases" className="margin-title">{speak`Releases`}</h2>
      {releases.length === 0 && <p className="quiet">{speak`None yet. Nobody but you sees this form.`}</p>}
      <ol className="grid gap-2">
        {releases.map(({ number, at, by, note }) => (
          <li key={number} className="text-[14px]">
            <button
              type="button"
              className="rounded text-left hover:underline"
              aria-expanded={open === number}
              onClick={() => setOpen(open === number ? null : number)}
            >
              <strong>{speak`Release ${number}`}</strong>
              {number === newest?.number && ' · live'}
              <span className="quiet block">
                {by}, {when(at)}
              </span>
            </button>
            {note !== '' && <p className="break-words">{note}</p>}
            {open === number && <Changed form={id} number={number} />}
            {open === number && (
              <button type="button" className="button-plain" onClick={() => void goBack(number)}>
                <Undo2 size={14} aria-hidden />
                {number === newest?.number ? speak`Drop the edits since` : speak`Go back to it`}
              </button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Changed({ form, number }: { form: string; number: number }) {
  const { data } = useQuery({
    queryKey: ['release', form, number],
    queryFn: () => fetched<Released>(`/api/forms/${form}/releases/${number}`),
  });
  if (data === undefined) return <p className="quiet">…</p>;
  return data.before === null ? (
    <p className="quiet">{speak`The first.`}</p>
  ) : (
    <Differences before={data.before} after={data.design} />
  );
}
