import { differenceOf } from '../../core/form/change/design-difference';
import type { DesignChange, List } from '../../core/form/change/design-change';
import type { FormDesign } from '../../core/form/design';
import { designChangeSentence } from '../../core/wording/design-change-sentence';
import { useExamples } from './Examples';
import type { FaceProps } from './face-props';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** What colleagues would meet otherwise than in the live release, and which kept examples end otherwise. */
export function Different({ bench, goTo }: FaceProps) {
  const { released } = bench.data;
  return (
    <>
      {released !== null && (
        <>
          <h3 className="mb-1 font-sans text-[15px]">{speak`What is different from the live release`}</h3>
          <Differences
            before={released}
            after={bench.design}
            onPlace={(change) => {
              const { face, line } = placeOfChange(change);
              if (line !== null) bench.select(line);
              goTo(face);
            }}
          />
        </>
      )}
      <ExamplesEnd bench={bench} />
    </>
  );
}

interface DifferencesProps {
  readonly before: FormDesign;
  readonly after: FormDesign;
  /** Goes to where a change is marked. */
  readonly onPlace?: (change: DesignChange) => void;
}

export function Differences({ before, after, onPlace }: DifferencesProps) {
  const changes = differenceOf(before, after);
  if (changes.length === 0) return <p className="quiet mb-3">{speak`Nothing.`}</p>;
  return (
    <ul className="mb-3 grid list-disc gap-1 pl-5 text-[14px]">
      {changes.map((change, i) => {
        const words = designChangeSentence(change, { before, after });
        return (
          <li key={i} className="break-words">
            {onPlace === undefined || change.t === 'remove' ? (
              words
            ) : (
              <button
                type="button"
                className="rounded text-left break-words hover:underline"
                onClick={() => onPlace(change)}
              >
                {words}
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}

const faceOf: Readonly<Partial<Record<List, string>>> = {
  checks: 'check',
  existing: 'check',
  steps: 'approve',
  rules: 'approve',
  conditions: 'approve',
  rows: 'approve',
  further: 'store',
};

function placeOfChange(change: DesignChange): { readonly face: string; readonly line: string | null } {
  if (change.t === 'set' && change.of === null) return { face: 'ask', line: null };
  const { list, id } =
    change.t === 'set' || change.t === 'move'
      ? (change.of ?? { list: 'sections' as const, id: '' })
      : { list: change.list, id: change.item.id };
  const face = faceOf[list] ?? 'ask';
  return { face, line: face === 'ask' ? id : null };
}

function ExamplesEnd({ bench }: { bench: Workbench }) {
  const examples = useExamples(bench).data?.examples ?? [];
  const different = examples.filter(({ differs }) => differs.length > 0);
  if (examples.length === 0) return null;
  return (
    <>
      <h3 className="mb-1 font-sans text-[15px]">{speak`Kept examples`}</h3>
      {different.length === 0 && (
        <p className="mb-3 text-[14px] text-lichen-deep">{speak`All ${examples.length} end as before.`}</p>
      )}
      <ul className="mb-3 grid gap-1 text-[14px]">
        {different.map(({ id, label, differs }) => (
          <li
            key={id}
          >{speakIn`${(<strong>{label}</strong>)} ends differently: ${(<mark className="marked text-ink">{differs[0]}</mark>)}${differs.length > 1 && speak` and ${differs.length - 1} more`}`}</li>
        ))}
      </ul>
    </>
  );
}
