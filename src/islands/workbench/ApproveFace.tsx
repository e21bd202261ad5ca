import { Plus, Route, Trash2 } from '../kit/icons';
import { useState } from 'react';
import { askedFor, needed } from '../../core/approval/path';
import { stepsFor, type Directory } from '../../core/approval/whom';
import type { ApprovalStep } from '../../core/form/design';
import { askedWords, stepLetters } from '../../core/wording/step-sentence';
import { pickedOf, pickedSentence } from '../../core/check/pick';
import { toShown, toStored } from '../../core/expression/stored-text';
import { peopleInAnswers } from '../../core/form/people-in-answers';
import { ExpressionInput } from '../kit/ExpressionInput';
import { personChoices } from '../kit/person-choices';
import { Select, type Choice } from '../kit/Select';
import { NumberWord, Sentence, Word } from '../kit/Sentence';
import { Several } from '../kit/Several';
import type { Scope } from '../../core/expression/type';
import { newShortId } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { Marked } from './Marked';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import type { FaceProps } from './face-props';

/** The steps in order, each a sentence. */
export function ApproveFace({ bench }: FaceProps) {
  const { design, data } = bench;
  const people = whomChoices(bench);
  const letters = stepLetters(design.steps);
  const add = (whom: string) => {
    const person = data.people.find(({ id }) => id === whom);
    const group = data.groups.find(({ id }) => id === whom);
    const label =
      group?.label ?? (person?.place || person?.name) ?? (whom === MANAGER ? 'Manager' : 'Approval');
    bench.edit((one) => ({
      ...one,
      steps: [...one.steps, { id: newShortId(), label, ...askedOf([whom], bench) }],
    }));
  };
  return (
    <div className="sheet-frame">
      <div>
        <p className="border-b border-slate-200 py-3 pl-[46px]">
          <strong>Sent by a colleague</strong>{' '}
          <span className="quiet">
            · kept in {design.table.label} {design.steps.length === 0 ? 'at once' : 'after the last step'}
          </span>
        </p>
        <ol>
          {design.steps.map((step, i) => (
            <StepLine key={step.id} bench={bench} step={step} letter={letters[i] ?? ''} people={people} />
          ))}
        </ol>
        <div className="line border-b-0">
          <span className="gutter">
            <Plus size={15} aria-hidden className="ml-auto" />
          </span>
          <Sentence>
            Then ask{' '}
            <Select
              label="Person of the new step"
              value={null}
              placeholder="somebody"
              choices={people}
              onChange={add}
            />
          </Sentence>
        </div>
      </div>
      <aside id="margin" className="margin-pane" aria-label="One example">
        <Example bench={bench} />
      </aside>
    </div>
  );
}

/** Proposed where a step is given a time. */
const USUAL_DAYS = 2;

function StepLine({
  bench,
  step,
  letter,
  people,
}: {
  bench: Workbench;
  step: ApprovalStep;
  letter: string;
  people: Choice[];
}) {
  const change = (part: Partial<ApprovalStep>) =>
    bench.edit((design) => ({
      ...design,
      steps: design.steps.map((one) => (one.id === step.id ? { ...one, ...part } : one)),
    }));
  return (
    <li className="line">
      <span className="gutter">{letter}</span>
      <div>
        <p className="mb-1 font-serif text-lg font-semibold">
          <Word label="Name of the step" value={step.label} onChange={(label) => change({ label })} />
          <Marked bench={bench} id={step.id} />
        </p>
        <Sentence>
          Ask{' '}
          <Several
            label="Who is asked"
            values={whomOf(step)}
            none="nobody yet"
            joined=" or "
            choices={people}
            onChange={(values) => change(askedOf(values, bench))}
          />
          {whomOf(step).length > 1 || step.groups !== undefined ? (
            <>
              and{' '}
              <Select
                label="How many of them must approve"
                value={step.decide === undefined ? 'one' : String(step.decide)}
                choices={waysToDecide(step, bench)}
                onChange={(value) => change({ decide: decideOf(value) })}
              />
            </>
          ) : (
            <>to decide</>
          )}{' '}
          <Select
            label="Whether there is a time to decide"
            value={step.within === undefined ? 'any' : 'within'}
            choices={[
              { value: 'any', label: 'at any time' },
              { value: 'within', label: 'within' },
            ]}
            onChange={(value) =>
              change(value === 'within' ? { within: USUAL_DAYS } : { within: undefined, late: undefined })
            }
          />
          {step.within !== undefined && (
            <>
              {' '}
              <NumberWord
                label="Working days to decide"
                value={step.within}
                least={1}
                most={limits.withinDays}
                onChange={(within) => change({ within })}
              />{' '}
              {step.within === 1 ? 'working day' : 'working days'}; once it is late,{' '}
              <Select
                label="What happens once it is late"
                value={step.late ?? ''}
                choices={lateChoices(step, bench)}
                onChange={(late) => change({ late: late === '' ? undefined : late })}
              />
            </>
          )}
        </Sentence>
        {dependsOnMore(step) && (
          <Sentence>
            Where nobody is there to ask, ask{' '}
            <Select
              label="Who is asked where nobody is there to ask"
              value={step.fallback ?? ''}
              choices={[
                { value: '', label: 'nobody: it cannot be sent' },
                ...personChoices(bench.data.people),
              ]}
              onChange={(value) => change({ fallback: value === '' ? undefined : value })}
            />
          </Sentence>
        )}
        <StepWhen bench={bench} step={step} change={change} />
        <Troubles besideEditor bench={bench} id={step.id} />
        <button
          type="button"
          className="button-plain text-rust!"
          onClick={() =>
            bench.edit((design) => ({ ...design, steps: design.steps.filter(({ id }) => id !== step.id) }))
          }
        >
          <Trash2 size={14} aria-hidden />
          Take the step out
        </button>
      </div>
    </li>
  );
}

/** Who is asked once it is late: as well, or instead where all must approve. */
function lateChoices({ decide }: ApprovalStep, { data }: Workbench): Choice[] {
  const how = decide === 'all' ? 'instead' : 'as well';
  return [
    { value: '', label: 'they are told' },
    { value: 'manager', label: `their manager is asked ${how}` },
    ...personChoices(data.people).map(({ value, label, short = label }) => ({
      value,
      label: `${label} is asked ${how}`,
      short: `${short} is asked ${how}`,
    })),
  ];
}

/** Whom it asks depends on who sends, on the answers, or on who is in a group; or somebody is named for that already. */
const dependsOnMore = ({ groups, manager, named, fallback }: ApprovalStep): boolean =>
  groups !== undefined || manager === true || named !== undefined || fallback !== undefined;

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
        It is asked{' '}
        {bench.design.steps[0]?.id !== step.id && (
          <Select
            label="Whether the step waits for the one before"
            value={step.beside === true ? 'beside' : 'after'}
            choices={[
              { value: 'after', label: 'after the step before it,' },
              { value: 'beside', label: 'at the same time as the step before it,' },
            ]}
            onChange={(value) => change({ beside: value === 'beside' ? true : undefined })}
          />
        )}{' '}
        <Select
          label="When the step is asked"
          value={step.when === undefined ? 'always' : 'when'}
          choices={[
            { value: 'always', label: 'always' },
            { value: 'when', label: 'only where' },
          ]}
          onChange={(value) => change({ when: value === 'when' ? '' : undefined })}
        />
        {picked !== null && ` ${pickedSentence(picked, scope, 'is')}`}
        {bench.design.steps[0]?.id !== step.id && (
          <Select
            label="Whether those are asked again who have approved before"
            value={step.unlessApproved === true ? 'no' : 'yes'}
            choices={[
              { value: 'yes', label: 'also of those who have approved before' },
              { value: 'no', label: 'but not where all of them have approved before' },
            ]}
            onChange={(value) => change({ unlessApproved: value === 'no' ? true : undefined })}
          />
        )}
      </Sentence>
      {step.when !== undefined && (
        <ExpressionInput
          key={step.id}
          label="It is asked where"
          stored={step.when}
          scope={scope}
          example="total > 500"
          onChange={(when) => change({ when })}
        />
      )}
    </>
  );
}

const MANAGER = 'manager';
/** Before the formula of whom the answers name, where it stands among people and groups. */
const NAMED = 'named ';

/** Whom a step may ask: whoever is the sender's manager, whom the answers name, the groups, and everybody by name. */
const whomChoices = ({ data, ...bench }: Workbench): Choice[] => [
  { value: MANAGER, label: 'the sender’s manager' },
  ...namedChoices(bench.scope()),
  ...data.groups.map(({ id, label }) => ({ value: id, label: `group ${label}` })),
  ...personChoices(data.people),
];

const namedChoices = (scope: Scope): Choice[] =>
  peopleInAnswers(scope).map((name) => ({
    value: `${NAMED}${toStored(name, scope)}`,
    label: `the person in ${name}`,
  }));

const whomOf = ({ people, groups = [], manager, named }: ApprovalStep): string[] => [
  ...(manager === true ? [MANAGER] : []),
  ...(named === undefined ? [] : [`${NAMED}${named}`]),
  ...groups,
  ...people,
];

function askedOf(
  whom: readonly string[],
  { data }: Workbench,
): Pick<ApprovalStep, 'people' | 'groups' | 'manager' | 'named'> {
  const isGroup = (id: string): boolean => data.groups.some((group) => group.id === id);
  const groups = whom.filter(isGroup);
  // A step asks by one answer; the one picked last stays.
  const named = whom.findLast((id) => id.startsWith(NAMED))?.slice(NAMED.length);
  return {
    people: whom.filter((id) => id !== MANAGER && !id.startsWith(NAMED) && !isGroup(id)),
    groups: groups.length === 0 ? undefined : groups,
    manager: whom.includes(MANAGER) ? true : undefined,
    named,
  };
}

const directoryOf = ({ data }: Workbench): Directory => ({
  people: new Map(data.people.map(({ id, manager }) => [id, { manager, ended: false }])),
  groups: new Map(data.groups.map((group) => [group.id, group])),
});

/** Any one, so many, or all; more than are named stays until it is mended. */
function waysToDecide(step: ApprovalStep, bench: Workbench): Choice[] {
  const { decide, manager, named } = step;
  const [asked] = stepsFor([step], '', directoryOf(bench));
  const people = (asked?.people.length ?? 0) + (manager === true ? 1 : 0) + (named === undefined ? 0 : 1);
  const most = Math.max(people - 1, typeof decide === 'number' ? decide : 0);
  return [
    { value: 'one', label: 'any one of them decides' },
    ...Array.from({ length: Math.max(most - 1, 0) }, (_, i) => ({
      value: String(i + 2),
      label: `at least ${i + 2} of them must approve`,
    })),
    { value: 'all', label: 'all of them must approve' },
  ];
}

const decideOf = (value: string): ApprovalStep['decide'] =>
  value === 'one' ? undefined : value === 'all' ? 'all' : Number(value);

function Example({ bench }: { bench: Workbench }) {
  const { design, data } = bench;
  const letters = stepLetters(design.steps);
  const [sender, setSender] = useState(data.people[0]?.id ?? '');
  return (
    <section className="margin-part first">
      <h2 className="margin-title">
        <Route size={16} aria-hidden />
        Who would be asked
      </h2>
      <Sentence>
        when{' '}
        <Select
          label="Sender of the example"
          value={sender}
          choices={data.people.map((one) => ({ value: one.id, label: one.name }))}
          onChange={setSender}
        />{' '}
        sends it
      </Sentence>
      <ol className="grid gap-2 text-[14px]">
        {stepsFor(design.steps, sender, directoryOf(bench)).map((step, i) => (
          <li key={step.id} className="flex gap-2">
            <span
              aria-hidden
              className="grid size-5 shrink-0 place-items-center rounded-full bg-lichen text-[12px] font-bold text-white"
            >
              {letters[i]}
            </span>
            <span>
              <strong>{step.label}</strong>
              {step.when !== undefined && <span className="quiet"> where its condition is true</span>}
              <AskedOf step={step} sender={sender} bench={bench} />
            </span>
          </li>
        ))}
        {design.steps.length === 0 && (
          <li className="quiet">Nobody; the rows are kept as soon as it is sent.</li>
        )}
      </ol>
    </section>
  );
}

/** Whom a step would ask, or why that is too few; whom the answers name is known when they are there. */
function AskedOf({ step, sender, bench }: { step: ApprovalStep; sender: string; bench: Workbench }) {
  const name = (id: string) => bench.data.people.find((one) => one.id === id)?.name ?? '';
  const asked = askedFor(step, sender);
  const must = needed(step, asked.length);
  if (step.named !== undefined) {
    const whoever = `whoever is in ${toShown(step.named, bench.scope())}`;
    const others = step.people.filter((id) => id !== sender).map(name);
    const fallback = step.fallback === undefined ? '' : `; where that is nobody, ${name(step.fallback)}`;
    return <span className="block">{askedWords(step, [whoever, ...others]) + fallback}</span>;
  }
  if (asked.length === 0)
    return (
      <span className="block text-rust">
        Nobody could be asked: there is nobody, or it is the sender. Name somebody besides.
      </span>
    );
  if (asked.length < must && step.people.length > 0)
    return (
      <span className="block text-rust">
        Only {asked.map(name).join(', ')}: nobody approves their own, and {must} must approve. Name one more.
      </span>
    );
  return <span className="block">{askedWords(step, asked.map(name))}</span>;
}
