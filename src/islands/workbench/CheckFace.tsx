import { memo, useDeferredValue, useState } from 'react';
import type { Check, ExistingCheck } from '../../core/check/check';
import {
  allQuestions,
  isField,
  questionsOf,
  type CalculatedQuestion,
  type FormDesign,
} from '../../core/form/design';
import { AddCheckLine } from '../kit/AddCheckLine';
import { Select } from '../kit/Select';
import { addCheck } from './add-check';
import { CalculationLine, CheckLine, ChecksOfTables, ExistingLine, groupAt } from './CheckLines';
import { CalculationMargin, CheckMargin } from './CheckMargin';
import type { FaceProps } from './face-props';
import { useExample } from './use-example';
import type { Workbench } from './use-workbench';
import { speak, spoken } from '../../core/wording/speak';

type Show = ReturnType<typeof shows>[number]['value'];
const shows = spoken(
  () =>
    [
      { value: 'all', label: speak`all lines` },
      { value: 'stop', label: speak`what stops` },
      { value: 'ask', label: speak`what asks for a reason` },
      { value: 'calculated', label: speak`calculations` },
      { value: 'tables', label: speak`checks of the tables` },
      { value: 'wrong', label: speak`what is to be fixed` },
    ] as const,
);

function isShown(bench: Workbench, show: Show, one: Check | ExistingCheck | CalculatedQuestion): boolean {
  switch (show) {
    case 'all':
      return true;
    case 'calculated':
      return 'kind' in one;
    case 'tables':
      return false;
    case 'wrong':
      return bench.issuesAt(one.id).length > 0;
    default:
      return !('kind' in one) && ('rule' in one ? 'stop' : one.otherwise) === show;
  }
}

/** All checks and calculations as one readable list, in the order a colleague meets them. */
export function CheckFace({ bench, goTo }: FaceProps) {
  const { design } = bench;
  const [inHand, setInHand] = useState<string | null>(design.checks[0]?.id ?? null);
  const shown = useDeferredValue(bench);
  const checks = [...design.checks, ...(design.existing ?? [])];
  const calculated = calculationsOf(design);
  const [show, setShow] = useState<Show>('all');
  const check = design.checks.find(({ id }) => id === inHand) ?? null;
  const calculation = calculated.find(({ id }) => id === inHand) ?? null;
  const example = useExample(bench);
  return (
    <div className="sheet-frame">
      <div>
        <h2 className="flex flex-wrap items-baseline gap-x-2 border-b border-slate-200 py-3 pr-5 pl-[46px] font-sans text-[15px]">
          {checks.length} {checks.length === 1 ? speak`check` : speak`checks`}, {calculated.length}{' '}
          {calculated.length === 1 ? speak`calculation` : speak`calculations`}{' '}
          <span className="quiet font-normal">{speak`in the order a colleague meets them`}</span>
          <span className="ml-auto flex items-center gap-1.5 font-normal">
            <span className="quiet">{speak`Show`}</span>
            <Select
              label={speak`Which lines are shown`}
              value={show}
              choices={shows()}
              onChange={(value) => setShow(value as Show)}
            />
          </span>
        </h2>
        {checks.length === 0 && (
          <p className="py-4 pl-[46px] text-[14px]">{speak`Nothing is checked yet beyond what must be filled. Add a check in the margin.`}</p>
        )}
        <Lines bench={shown} show={show} inHand={inHand} onPick={setInHand} />
        {(show === 'all' || show === 'tables') && <ChecksOfTables bench={shown} />}
        <AddCheck
          bench={bench}
          onAdd={(id) => {
            setInHand(addCheck(bench, id));
            // Once the list it was picked from has given the focus back.
            setTimeout(() => document.querySelector<HTMLElement>('#margin [aria-label="Value"]')?.focus(), 0);
          }}
        />
      </div>
      <aside id="margin" className="margin-pane" aria-label={speak`The check in hand`}>
        {check !== null ? (
          <CheckMargin
            key={check.id}
            bench={bench}
            check={check}
            group={groupAt(bench, check.on)}
            example={example}
          />
        ) : calculation !== null ? (
          <CalculationMargin
            key={calculation.id}
            bench={bench}
            question={calculation}
            group={groupAt(bench, calculation.id)}
            example={example}
            onSettings={() => {
              bench.select(calculation.id);
              goTo('ask');
            }}
          />
        ) : (
          <p className="margin-part first quiet">{speak`Pick a check on the sheet, or add one.`}</p>
        )}
      </aside>
    </div>
  );
}

const calculationsOf = (design: FormDesign): readonly CalculatedQuestion[] =>
  allQuestions(design).filter((one) => one.kind === 'calculated');

interface LinesProps {
  readonly bench: Workbench;
  readonly show: Show;
  readonly inHand: string | null;
  readonly onPick: (id: string) => void;
}

/** They follow what is typed in the margin: many of them take longer to draw than a letter may take to be painted. */
const Lines = memo(function Lines({ bench, show, inHand, onPick }: LinesProps) {
  const { design } = bench;
  const order = questionsOf(design).flatMap((question) => [
    question.id,
    ...(question.kind === 'rows' ? [...question.columns, ...question.totals].map(({ id }) => id) : []),
  ]);
  const places = new Map(order.map((id, i) => [id, i]));
  const checks = [...design.checks, ...(design.existing ?? [])].sort(
    (a, b) => (places.get(a.on) ?? -1) - (places.get(b.on) ?? -1),
  );
  return (
    <ul>
      {calculationsOf(design)
        .filter((one) => isShown(bench, show, one))
        .map((one) => (
          <CalculationLine
            key={one.id}
            bench={bench}
            question={one}
            inHand={one.id === inHand}
            onPick={() => onPick(one.id)}
          />
        ))}
      {checks
        .filter((one) => isShown(bench, show, one))
        .map((one) =>
          'rule' in one ? (
            <ExistingLine key={one.id} bench={bench} check={one} />
          ) : (
            <CheckLine
              key={one.id}
              bench={bench}
              check={one}
              inHand={one.id === inHand}
              onPick={() => onPick(one.id)}
            />
          ),
        )}
    </ul>
  );
});

function AddCheck({ bench, onAdd }: { bench: Workbench; onAdd: (on: string) => void }) {
  const places = questionsOf(bench.design).flatMap((question): readonly { id: string; label: string }[] =>
    question.kind === 'rows'
      ? [question, ...question.columns, ...question.totals]
      : isField(question)
        ? [question]
        : [],
  );
  return (
    <AddCheckLine
      what="line"
      places={places.map(({ id, label }) => ({
        value: id,
        label: `${bench.numbers.get(id) ?? ''} ${label}`,
      }))}
      onAdd={onAdd}
    />
  );
}
