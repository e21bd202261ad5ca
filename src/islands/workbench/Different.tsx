import { differenceOf } from '../../core/form/change/design-difference';
import type { FormDesign } from '../../core/form/design';
import { designChangeSentence } from '../../core/wording/design-change-sentence';
import { useExamples } from './Examples';
import type { Workbench } from './use-workbench';

/** What colleagues would meet otherwise than in the live release, and which kept examples end otherwise. */
export function Different({ bench }: { bench: Workbench }) {
  const { released } = bench.data;
  return (
    <>
      {released !== null && (
        <>
          <h3 className="mb-1 font-sans text-[15px]">What is different from the live release</h3>
          <Differences before={released} after={bench.design} />
        </>
      )}
      <ExamplesEnd bench={bench} />
    </>
  );
}

export function Differences({ before, after }: { before: FormDesign; after: FormDesign }) {
  const sentences = differenceOf(before, after).map((change) =>
    designChangeSentence(change, { before, after }),
  );
  if (sentences.length === 0) return <p className="quiet mb-3">Nothing.</p>;
  return (
    <ul className="mb-3 grid list-disc gap-1 pl-5 text-[14px]">
      {sentences.map((words, i) => (
        <li key={i} className="break-words">
          {words}
        </li>
      ))}
    </ul>
  );
}

function ExamplesEnd({ bench }: { bench: Workbench }) {
  const examples = useExamples(bench).data?.examples ?? [];
  const different = examples.filter(({ differs }) => differs.length > 0);
  if (examples.length === 0) return null;
  return (
    <>
      <h3 className="mb-1 font-sans text-[15px]">Kept examples</h3>
      {different.length === 0 && (
        <p className="mb-3 text-[14px] text-lichen-deep">All {examples.length} end as before.</p>
      )}
      <ul className="mb-3 grid gap-1 text-[14px]">
        {different.map(({ id, label, differs }) => (
          <li key={id}>
            <strong>{label}</strong> ends differently: <mark className="marked text-ink">{differs[0]}</mark>
            {differs.length > 1 && ` and ${differs.length - 1} more`}
          </li>
        ))}
      </ul>
    </>
  );
}
