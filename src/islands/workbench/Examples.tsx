import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { PlayedExample } from '../../contract/rehearsals';
import type { Answers } from '../../core/form/answers';
import { newUuid } from '../../core/kernel/ids';
import { counted } from '../../core/wording/numbers';
import { call, fetched } from '../kit/call';
import { Bookmark, CircleCheck } from '../kit/icons';
import { sayWith } from '../kit/say';
import { momentOf } from './rehearsal-setting';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Examples are played by the draft as the server has it. */
export function useExamples(bench: Workbench) {
  return useQuery({
    queryKey: ['examples', bench.data.id, bench.design],
    queryFn: async () => {
      await bench.keep();
      return fetched<{ examples: PlayedExample[] }>(`/api/forms/${bench.data.id}/examples`);
    },
    enabled: bench.issues.length === 0,
    retry: false,
  });
}

/** Answers that are kept, and played again whenever the form is edited: those that end differently are told. */
export function Examples({ bench, answers }: { bench: Workbench; answers: Answers }) {
  const played = useExamples(bench);
  const examples = played.data?.examples ?? [];
  const different = examples.filter(({ differs }) => differs.length > 0);
  return (
    <section className="margin-part" aria-labelledby="examples">
      <h2 id="examples" className="margin-title">
        <Bookmark size={16} aria-hidden />
        {speak`Examples`}
      </h2>
      <p className="quiet mb-2">{speak`Kept answers are played again after every edit, and you are told when one ends differently. Those who design this form see them.`}</p>
      {examples.length > 0 && (
        <p className="mb-2 text-[14px]" role="status">{speakIn`${examples.length} kept · ${
          different.length === 0 ? (
            <strong className="text-lichen-deep">{speak`all end as before`}</strong>
          ) : (
            <strong className="text-ochre">{speak`${different.length} ${different.length === 1 ? speak`ends` : speak`end`} differently`}</strong>
          )
        }${(<span className="quiet block">{coverage(bench, examples)}</span>)}`}</p>
      )}
      <ul className="mb-2 grid gap-2">
        {[...different, ...examples.filter((one) => !different.includes(one))].map((one) => (
          <ExampleLine key={one.id} bench={bench} one={one} />
        ))}
      </ul>
      <Keeping bench={bench} answers={answers} />
    </section>
  );
}

/** How many of the checks are seen to fire by an example; a check that none breaks may say anything. */
function coverage({ design }: Workbench, examples: readonly PlayedExample[]): string {
  const fired = new Set(
    examples.flatMap(({ now }) =>
      now.checks.filter(({ came }) => came === 'stops' || came === 'asks').map(({ id }) => id),
    ),
  );
  const { checks } = design;
  if (checks.length === 0) return '';
  const unseen = checks.filter(({ id }) => !fired.has(id));
  return unseen.length === 0
    ? speak`Each check is seen to fire in one of them.`
    : speak`${counted(unseen.length, 'check')} fires in none of them: ${unseen
        .slice(0, 3)
        .map(({ message }) => `“${message}”`)
        .join(', ')}`.replace('checks fires', 'checks fire');
}

function ExampleLine({ bench, one }: { bench: Workbench; one: PlayedExample }) {
  const queries = useQueryClient();
  const path = `/api/forms/${bench.data.id}/examples/${one.id}`;
  const again = () => queries.invalidateQueries({ queryKey: ['examples', bench.data.id] });
  const take = () =>
    bench.setRehearsal({
      as: one.as,
      day: one.at.slice(0, 10),
      time: one.at.slice(11, 16),
      of: null,
      answers: one.answers,
      round: bench.rehearsal.round + 1,
    });
  const drop = async () => {
    const result = await call('DELETE', path);
    if (!result.ok) return;
    await again();
    sayWith(speak`“${one.label}” is kept no more`, speak`Keep it`, () => {
      const { label, as, at, answers } = one;
      void call('PUT', path, { label, as, at, answers }).then(again);
    });
  };
  return (
    <li className="text-[14px]">
      <span className="flex items-baseline gap-2">
        <button type="button" className="rounded text-left font-semibold hover:underline" onClick={take}>
          {one.label}
        </button>
        <button
          type="button"
          className="button-plain ml-auto text-[13px]! text-slate-600!"
          aria-label={speak`Drop the example ${one.label}`}
          onClick={() => void drop()}
        >{speak`Drop`}</button>
      </span>
      {one.differs.slice(0, 4).map((words) => (
        <span key={words} className="block break-words">
          <mark className="marked text-ink">{words}</mark>
        </span>
      ))}
      {one.differs.length > 4 && <span className="quiet">{speak`and ${one.differs.length - 4} more`}</span>}
      {one.differs.length > 0 && (
        <button
          type="button"
          className="button-plain text-[13px]!"
          onClick={() => void call('POST', path).then(again)}
        >
          <CircleCheck size={14} aria-hidden />
          {speak`That is right so`}
        </button>
      )}
    </li>
  );
}

function Keeping({ bench, answers }: { bench: Workbench; answers: Answers }) {
  const [label, setLabel] = useState('');
  const [trouble, setTrouble] = useState('');
  const queries = useQueryClient();
  const keep = async () => {
    setTrouble('');
    const result = await call('PUT', `/api/forms/${bench.data.id}/examples/${newUuid()}`, {
      label,
      as: bench.rehearsal.as,
      at: momentOf(bench.rehearsal),
      answers,
    });
    if (!result.ok) return setTrouble(result.error.title);
    setLabel('');
    await queries.invalidateQueries({ queryKey: ['examples', bench.data.id] });
  };
  return (
    <form
      className="flex gap-2"
      data-own-undo
      onSubmit={(event) => {
        event.preventDefault();
        if (label.trim() !== '') void keep();
      }}
    >
      <input
        aria-label={speak`Name of the example`}
        className="box"
        placeholder={speak`Keep these answers as…`}
        maxLength={200}
        value={label}
        onChange={(event) => setLabel(event.target.value)}
      />
      {label.trim() !== '' && <button type="submit" className="button">{speak`Keep`}</button>}
      {trouble !== '' && <p className="trouble">{trouble}</p>}
    </form>
  );
}
