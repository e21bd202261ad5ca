import { Fragment } from 'react';
import type { DrawnStep } from '../../core/approval/drawing';
import { roundsOf } from '../../core/approval/path';
import { rulesIn } from '../../core/form/design';
import { rulesFor } from '../../core/rules/ruled-steps';
import { stepLetters } from '../../core/wording/step-sentence';
import { ArrowRight, CircleX, Split, Table2 } from '../kit/icons';
import { drawnSteps } from './drawn-steps';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** Where the sentences of a step stand, so that its drawing leads there. */
export const stepPlace = (id: string): string => `step-${id}`;

/**
 * The path as it goes, from left to right, or from top to bottom where there is little room: what is asked at
 * the same time stands together.
 */
export function PathDrawn({ bench }: { readonly bench: Workbench }) {
  const steps = drawnSteps(bench);
  const letters = stepLetters(steps);
  return (
    <ol
      aria-label={speak`The path`}
      className="flex flex-col items-start gap-y-2 sm:flex-row sm:flex-wrap sm:items-center"
    >
      <li className="rounded-full border border-slate-300 px-3 py-1 text-[14px]">{speak`Sent`}</li>
      {roundsOf(steps).map((round) => (
        <Fragment key={round[0]?.id}>
          <Onward />
          {round.length === 1 ? (
            round.map((step) => (
              <li key={step.id} className="min-w-0">
                <Step bench={bench} step={step} letter={letters[steps.indexOf(step)] ?? ''} />
              </li>
            ))
          ) : (
            <li className="min-w-0 rounded-lg border border-slate-300 bg-slate-50 p-2">
              <p className="quiet mb-1.5">{speak`at the same time`}</p>
              <ul className="grid gap-2">
                {round.map((step) => (
                  <li key={step.id}>
                    <Step bench={bench} step={step} letter={letters[steps.indexOf(step)] ?? ''} />
                  </li>
                ))}
              </ul>
            </li>
          )}
        </Fragment>
      ))}
      <Onward />
      <li className="rounded-full border border-lichen bg-lichen-soft px-3 py-1 text-[14px]">{speak`Kept in ${bench.design.table.label}`}</li>
    </ol>
  );
}

const Onward = () => (
  <li aria-hidden className="px-1.5 text-slate-600 max-sm:rotate-90 max-sm:self-start max-sm:pl-1.5">
    <ArrowRight size={16} />
  </li>
);

/** A step with what it depends on. It leads to its sentences. */
function Step({
  bench,
  step: { id, label, says, where },
  letter,
}: {
  readonly bench: Workbench;
  readonly step: DrawnStep;
  readonly letter: string;
}) {
  const rules = rulesFor(rulesIn(bench.design), id);
  const isWrong = bench.issuesAt(id).length > 0;
  return (
    <button
      type="button"
      onClick={() => goToStep(id)}
      className={`block w-52 max-w-full rounded-md border bg-white px-2.5 py-1.5 text-left text-[14px] hover:bg-slate-50 ${
        where === null ? 'border-slate-600' : 'border-dashed border-slate-600'
      }`}
    >
      <span className="flex min-w-0 items-center gap-1.5">
        <span className="font-mono text-[13px] font-semibold">{letter}</span>
        <strong className="truncate">{label}</strong>
        {isWrong && (
          <CircleX size={15} role="img" aria-label={speak`something to mend`} className="text-rust" />
        )}
      </span>
      {rules.length === 0 && <span className="line-clamp-2 text-slate-600">{says}</span>}
      {rules.map((table) => (
        <span key={table.id} className="flex min-w-0 items-center gap-1.5 text-slate-600">
          <Table2 size={14} aria-hidden className="shrink-0" />
          <span className="truncate">{speak`by ${table.label}`}</span>
        </span>
      ))}
      {where !== null && (
        <span className="flex min-w-0 items-start gap-1.5 text-slate-600">
          <Split size={14} aria-hidden className="mt-1 shrink-0" />
          <span className="line-clamp-3 break-words">{speak`only where ${where}`}</span>
        </span>
      )}
    </button>
  );
}

function goToStep(id: string): void {
  const place = document.getElementById(stepPlace(id));
  place?.scrollIntoView({ block: 'center' });
  place?.querySelector<HTMLElement>('button, input')?.focus({ preventScroll: true });
}
