import { tellable, tellsBy } from '../../core/approval/digest';
import { stepsFor } from '../../core/approval/whom';
import { pickedOf, pickedSentence } from '../../core/check/pick';
import { toShown } from '../../core/expression/stored-text';
import { Fragment, useState } from 'react';
import { rulesIn, type ApprovalStep } from '../../core/form/design';
import { removeStep } from '../../core/form/rule-edits';
import { rulesFor } from '../../core/rules/ruled-steps';
import { newShortId } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { stepLetters } from '../../core/wording/step-sentence';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Plus, Trash2 } from '../kit/icons';
import { personChoices } from '../kit/person-choices';
import { Select, type Choice } from '../kit/Select';
import { NumberWord, Sentence, Word } from '../kit/Sentence';
import { Several } from '../kit/Several';
import type { FaceProps } from './face-props';
import { MailLines } from './MailLines';
import { Marked } from './Marked';
import { StepCorrects } from './StepCorrects';
import { StepLate } from './StepLate';
import { StepRole } from './StepRole';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import { RuleConditionMargin, type ConditionInHand } from './RuleConditionMargin';
import { PastWays } from './PastWays';
import { PathDrawn, stepPlace } from './PathDrawn';
import { PathFound } from './PathFound';
import { PathOut } from './PathOut';
import { RuleFound } from './RuleFound';
import { RulesLine } from './RulesLine';
import {
  askByStep,
  askedOf,
  directoryOf,
  MANAGER,
  stepWhomChoices,
  stepWhomOf,
  whomChoices,
} from './whom-choices';
import { WhoWouldBeAsked } from './WhoWouldBeAsked';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The steps in order, each a sentence. */
export function ApproveFace({ bench }: FaceProps) {
  const { design, data } = bench;
  const people = whomChoices(bench);
  const letters = stepLetters(design.steps);
  const [inHand, setInHand] = useState<ConditionInHand | null>(null);
  const add = (whom: string) => {
    const person = data.people.find(({ id }) => id === whom);
    const group = data.groups.find(({ id }) => id === whom);
    const label =
      group?.label ??
      (person?.place || person?.name) ??
      (whom === MANAGER ? speak`Manager` : speak`Approval`);
    bench.edit((one) => ({
      ...one,
      steps: [...one.steps, { id: newShortId(), label, ...askedOf([whom], bench) }],
    }));
  };
  return (
    <div className="sheet-frame">
      <div>
        {design.steps.length === 0 ? (
          <p className="border-b border-slate-200 py-3 pl-[46px]">
            <strong>{speak`Sent by a colleague`}</strong>{' '}
            <span className="quiet">{speak`· kept in ${design.table.label} at once`}</span>
          </p>
        ) : (
          <div className="border-b border-slate-200 py-3 pr-5 pl-[46px] max-sm:pl-[34px]">
            <PathDrawn bench={bench} />
          </div>
        )}
        {design.steps.length > 0 && (
          <div className="border-b border-slate-200 py-2 pl-[46px] max-sm:pl-[34px]">
            <Sentence>{speakIn`In the list of what waits, it is told by ${(
              <Several
                label={speak`By what lists tell it`}
                values={tellsBy(design).map(({ id }) => id)}
                none={speak`its sender alone`}
                choices={tellable(design).map(({ id, label }) => ({ value: id, label }))}
                onChange={(ids) => bench.edit((one) => ({ ...one, listedBy: ids.slice(0, limits.listedBy) }))}
              />
            )}`}</Sentence>
          </div>
        )}
        <ol>
          {design.steps.map((step, i) => (
            <Fragment key={step.id}>
              <StepLine bench={bench} step={step} letter={letters[i] ?? ''} />
              {rulesFor(rulesIn(design), step.id)
                .filter((table) => design.steps.find(({ id }) => table.asks.includes(id)) === step)
                .map((table) => (
                  <RulesLine key={table.id} bench={bench} table={table} inHand={inHand} onPick={setInHand} />
                ))}
            </Fragment>
          ))}
          {rulesIn(design)
            .filter(({ asks }) => asks.length === 0)
            .map((table) => (
              <RulesLine key={table.id} bench={bench} table={table} inHand={inHand} onPick={setInHand} />
            ))}
        </ol>
        <div className="line">
          <span className="gutter">
            <Plus size={15} aria-hidden className="ml-auto" />
          </span>
          <Sentence>{speakIn`Then ask ${(
            <Select
              label={speak`Person of the new step`}
              value={null}
              placeholder={speak`somebody`}
              choices={people}
              onChange={add}
            />
          )}`}</Sentence>
        </div>
        {design.steps.length > 0 && <MailLines bench={bench} />}
      </div>
      <aside id="margin" className="margin-pane" aria-label={speak`Rules and one example`}>
        {inHand !== null && (
          <RuleConditionMargin bench={bench} inHand={inHand} onLeave={() => setInHand(null)} />
        )}
        {rulesIn(design).map((table) => (
          <RuleFound key={table.id} bench={bench} table={table} />
        ))}
        <PathFound bench={bench} />
        <PastWays bench={bench} />
        <WhoWouldBeAsked bench={bench} />
        {design.steps.length > 0 && <PathOut bench={bench} />}
      </aside>
    </div>
  );
}

/** Proposed where a step is given a time. */
const USUAL_DAYS = 2;

function StepLine({ bench, step, letter }: { bench: Workbench; step: ApprovalStep; letter: string }) {
  const whom = stepWhomOf(step, bench);
  const givesDays = rulesIn(bench.design).some(({ days }) => days.includes(step.id));
  const isRuled = rulesFor(rulesIn(bench.design), step.id).length > 0;
  const asksSeveral = whom.length > 1 || step.groups !== undefined || step.role !== undefined;
  const change = (part: Partial<ApprovalStep>) =>
    bench.edit((design) => ({
      ...design,
      steps: design.steps.map((one) => (one.id === step.id ? { ...one, ...part } : one)),
    }));
  return (
    <li className="line" id={stepPlace(step.id)}>
      <span className="gutter">{letter}</span>
      <div>
        <p className="mb-1 font-serif text-lg font-semibold">
          <Word label={speak`Name of the step`} value={step.label} onChange={(label) => change({ label })} />
          <Marked bench={bench} id={step.id} />
        </p>
        <Sentence>
          {speakIn`Ask ${(
            <Several
              label={speak`Who is asked`}
              values={whom}
              none={speak`nobody yet`}
              joined={speak` or `}
              choices={stepWhomChoices(bench)}
              onChange={(values) => askByStep(bench, step, values)}
            />
          )}${
            isRuled || asksSeveral ? (
              <>{speakIn`and ${(
                <Select
                  label={speak`How many of them must approve`}
                  value={step.decide === undefined ? 'one' : String(step.decide)}
                  choices={waysToDecide(step, bench)}
                  onChange={(value) =>
                    change({ decide: decideOf(value), ...(value === 'all' && { declines: undefined }) })
                  }
                />
              )}`}</>
            ) : (
              <>{speak`to decide`}</>
            )
          } ${(
            <Select
              label={speak`Whether there is a time to decide`}
              value={step.within === undefined ? 'any' : 'within'}
              choices={[
                { value: 'any', label: givesDays ? speak`in the time the rules give` : speak`at any time` },
                { value: 'within', label: speak`within` },
              ]}
              onChange={(value) =>
                change(
                  value === 'within'
                    ? { within: USUAL_DAYS }
                    : { within: undefined, hours: undefined, soon: undefined, late: undefined },
                )
              }
            />
          )}`}
          {step.within !== undefined && (
            <>
              {' '}
              <NumberWord
                label={speak`Time to decide`}
                value={step.within}
                least={1}
                most={limits.withinDays}
                onChange={(within) => change({ within })}
              />{' '}
              <Select
                label={speak`In what the time is counted`}
                value={step.hours === true ? 'hours' : 'days'}
                choices={[
                  { value: 'days', label: step.within === 1 ? speak`working day` : speak`working days` },
                  { value: 'hours', label: step.within === 1 ? speak`working hour` : speak`working hours` },
                ]}
                onChange={(value) => change({ hours: value === 'hours' ? true : undefined })}
              />
            </>
          )}
        </Sentence>
        {!isRuled && step.role !== undefined && <StepRole bench={bench} role={step.role} change={change} />}
        {step.within !== undefined && <StepLate bench={bench} step={step} change={change} />}
        {step.decide !== 'all' && (isRuled || asksSeveral) && (
          <Sentence>{speakIn`If one declines, ${(
            <Select
              label={speak`What it means if one declines`}
              value={step.declines ?? 'ends'}
              choices={[
                { value: 'ends', label: speak`it ends there` },
                { value: 'against', label: speak`that counts as one against, and the others decide` },
              ]}
              onChange={(value) => change({ declines: value === 'against' ? value : undefined })}
            />
          )}`}</Sentence>
        )}
        {(isRuled || dependsOnMore(step)) && (
          <Sentence>{speakIn`${isRuled ? speak`Where the rules do not say` : speak`Where nobody is there to ask`}, ask ${(
            <Select
              label={speak`Who is asked where nobody is there to ask`}
              value={step.fallback ?? ''}
              choices={[
                { value: '', label: speak`nobody: it cannot be sent` },
                ...personChoices(bench.data.people),
              ]}
              onChange={(value) => change({ fallback: value === '' ? undefined : value })}
            />
          )}`}</Sentence>
        )}
        <StepWhen bench={bench} step={step} change={change} />
        <StepCorrects bench={bench} step={step} change={change} />
        <Troubles besideEditor bench={bench} id={step.id} />
        <button
          type="button"
          className="button-plain text-rust!"
          onClick={() => bench.edit((design) => removeStep(design, step.id))}
        >
          <Trash2 size={14} aria-hidden />
          {speak`Take the step out`}
        </button>
      </div>
    </li>
  );
}

/** Whom it asks depends on who sends, on the answers, or on who is in a group; or somebody is named for that already. */
const dependsOnMore = ({ groups, manager, named, role, fallback }: ApprovalStep): boolean =>
  groups !== undefined ||
  role !== undefined ||
  manager !== undefined ||
  named !== undefined ||
  fallback !== undefined;

/** Whether it is asked about everything that is sent, or only where something is so. */
function StepWhen({
  bench,
  step,
  change,
}: {
  bench: Workbench;
  step: ApprovalStep;
  change: (part: Partial<ApprovalStep>) => void;
}) {
  const scope = bench.scope();
  const picked = step.when === undefined ? null : pickedOf(toShown(step.when, scope), scope);
  return (
    <>
      <Sentence>
        {speakIn`It is asked ${
          bench.design.steps[0]?.id !== step.id && (
            <Select
              label={speak`Whether the step waits for the one before`}
              value={step.beside === true ? 'beside' : 'after'}
              choices={[
                { value: 'after', label: speak`after the step before it,` },
                { value: 'beside', label: speak`at the same time as the step before it,` },
              ]}
              onChange={(value) => change({ beside: value === 'beside' ? true : undefined })}
            />
          )
        } ${(
          <Select
            label={speak`When the step is asked`}
            value={step.when === undefined ? 'always' : 'when'}
            choices={[
              { value: 'always', label: speak`always` },
              { value: 'when', label: speak`only where` },
            ]}
            onChange={(value) => change({ when: value === 'when' ? '' : undefined })}
          />
        )}${picked !== null && ` ${pickedSentence(picked, scope, 'is')}`}`}
        {bench.design.steps[0]?.id !== step.id && (
          <Select
            label={speak`Whether those are asked again who have approved before`}
            value={step.unlessApproved === true ? 'no' : 'yes'}
            choices={[
              { value: 'yes', label: speak`also of those who have approved before` },
              { value: 'no', label: speak`but not where all of them have approved before` },
            ]}
            onChange={(value) => change({ unlessApproved: value === 'no' ? true : undefined })}
          />
        )}
      </Sentence>
      {step.when !== undefined && (
        <ExpressionInput
          key={step.id}
          label={speak`It is asked where`}
          stored={step.when}
          scope={scope}
          example="total > 500"
          onChange={(when) => change({ when })}
        />
      )}
    </>
  );
}

/** Who is at a place is known when it is sent; so many may be proposed. */
const MOST_HOLDERS = 3;

/** Any one, so many, or all; more than are named stays until it is mended. */
function waysToDecide(step: ApprovalStep, bench: Workbench): Choice[] {
  const { decide, manager, named, role } = step;
  const [asked] = stepsFor({ steps: [step] }, '', directoryOf(bench));
  const people =
    (asked?.people.length ?? 0) +
    (manager === undefined ? 0 : 1) +
    (named === undefined ? 0 : 1) +
    (role === undefined ? 0 : MOST_HOLDERS);
  const most = Math.max(people - 1, typeof decide === 'number' ? decide : 0);
  return [
    { value: 'one', label: speak`any one of them decides` },
    ...Array.from({ length: Math.max(most - 1, 0) }, (_, i) => ({
      value: String(i + 2),
      label: speak`at least ${i + 2} of them must approve`,
    })),
    { value: 'all', label: speak`all of them must approve` },
  ];
}

const decideOf = (value: string): ApprovalStep['decide'] =>
  value === 'one' ? undefined : value === 'all' ? 'all' : Number(value);
