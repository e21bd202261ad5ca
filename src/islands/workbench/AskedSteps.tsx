import type { ReactNode } from 'react';
import type { Rehearsed } from '../../core/form/rehearsed';
import { showDate } from '../../core/formats/days';
import { askedWords, stepLetters } from '../../core/wording/step-sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

type AskedStep = Rehearsed['steps'][number];

interface Props {
  readonly bench: Workbench;
  readonly steps: readonly AskedStep[];
}

/** Whom each step would ask about some answers, why, and by when; or why it would not be asked. */
export function AskedSteps({ bench: { design }, steps }: Props) {
  const letters = stepLetters(design.steps);
  return (
    <ol className="grid gap-2 text-[14px]">
      {steps.map((step) => {
        const at = design.steps.findIndex(({ id }) => id === step.id);
        return (
          <StepMark key={step.id} letter={letters[at] ?? ''} skipped={step.skipped}>
            <strong className={step.skipped === true ? 'font-normal text-slate-600' : ''}>
              {step.label}
            </strong>
            {step.skipped === true ? (
              <NotAsked step={step} />
            ) : (
              <Asked step={step} decide={design.steps[at]?.decide} />
            )}
          </StepMark>
        );
      })}
    </ol>
  );
}

/** A step in the margin, by its letter; one that is not asked is only outlined. */
export const StepMark = ({
  letter,
  skipped = false,
  children,
}: {
  readonly letter: string;
  readonly skipped?: boolean | undefined;
  readonly children: ReactNode;
}) => (
  <li className="flex min-w-0 gap-2.5">
    <span
      aria-hidden
      className={`grid size-5 shrink-0 place-items-center rounded-full text-[12px] font-bold ${
        skipped ? 'border border-dashed border-slate-600 text-slate-600' : 'bg-lichen text-white'
      }`}
    >
      {letter}
    </span>
    <span className="min-w-0 break-words">{children}</span>
  </li>
);

const NotAsked = ({ step: { because = '' } }: { readonly step: AskedStep }) => (
  <span className="block text-slate-600">
    {speak`not asked about these answers`}
    {because !== '' && <span className="block font-mono text-[13px] break-words">{because}</span>}
  </span>
);

function Asked({
  step: { asked, reasons = [], due },
  decide,
}: {
  readonly step: AskedStep;
  readonly decide: Parameters<typeof askedWords>[0]['decide'];
}) {
  if (asked.length === 0)
    return <span className="block text-rust">{speak`nobody could be asked: nobody approves their own`}</span>;
  const whys = new Set(reasons);
  // One reason for all of them is said once.
  const [same] = whys.size === 1 ? reasons : [];
  const names = asked.map((name, i) => {
    const why = reasons[i] ?? null;
    return why === null || whys.size === 1 ? name : `${name} (${why})`;
  });
  return (
    <span className="block text-slate-600">
      {askedWords({ decide }, names)}
      {same != null && <span className="block">{same}</span>}
      {due !== undefined && (
        <span className="block">{speakIn`by ${showDate(due.day)}${due.time !== undefined && `, ${due.time}`}, if it is asked then`}</span>
      )}
    </span>
  );
}
