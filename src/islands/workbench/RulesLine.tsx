import { useMemo } from 'react';
import { conditionDomain, conditionsToPick } from '../../core/form/rule-conditions';
import { calculatedIn } from '../../core/form/design';
import { filledBy } from '../../core/form/filled-by-rules';
import { changeRules, fillBy, giveTo, insertRow, leaveFilling, moveRow } from '../../core/form/rule-edits';
import { toShown, toStored } from '../../core/expression/stored-text';
import { newShortId } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { rowFor } from '../../core/rules/findings';
import { givesOf, hitPolicies, saysWhom, weightOf, type Rule, type RuleTable } from '../../core/rules/rules';
import { hitWords } from '../../core/wording/rule-sentence';
import { stepLetters } from '../../core/wording/step-sentence';
import { ArrowDown, ArrowUp, Plus, Trash2, X } from '../kit/icons';
import { Select } from '../kit/Select';
import { NumberWord, Sentence, Word } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { FillCell } from './FillCell';
import { Marked } from './Marked';
import { pasteRules } from './paste-rules';
import type { ConditionInHand } from './RuleConditionMargin';
import { RuleCellInput } from './RuleCellInput';
import { RuleGaps } from './RuleGaps';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import { askedOf, whomChoices, whomOf } from './whom-choices';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly table: RuleTable;
  readonly inHand: ConditionInHand | null;
  readonly onPick: (condition: ConditionInHand) => void;
}

/** A table of rules below the first step that asks whom it says: conditions on the left, whom and how long on the right. */
export function RulesLine({ bench, table, inHand, onPick }: Props) {
  const change = (how: (now: RuleTable) => RuleTable) =>
    bench.edit((design) => changeRules(design, table.id, how));
  const steps = bench.design.steps.filter(({ id }) => table.asks.includes(id));
  const [first] = steps;
  return (
    <li className="border-b border-slate-200 bg-slate-50 py-3 pr-4 pl-[46px] max-sm:pl-3">
      <div className="flex flex-wrap items-center gap-x-3">
        <p className="font-serif text-lg font-semibold">
          <Word
            label={speak`Name of the rules`}
            value={table.label}
            onChange={(label) => change((now) => ({ ...now, label }))}
          />
          <Marked bench={bench} id={table.id} />
        </p>
        <Sentence>
          <span className="text-slate-600">
            <Select
              label={speak`Which rows count`}
              value={table.hit}
              choices={hitPolicies.map((hit) => ({ value: hit, ...hitWords()[hit] }))}
              onChange={(hit) => change((now) => ({ ...now, hit: hit as RuleTable['hit'] }))}
            />
          </span>
        </Sentence>
        <span className="ml-auto flex gap-3">
          <AddCondition bench={bench} table={table} onAdded={onPick} />
          <AddFill bench={bench} table={table} />
          {first !== undefined && !table.days.includes(first.id) && (
            <button
              type="button"
              className="button-plain"
              onClick={() => change((now) => ({ ...now, days: [...now.days, ...steps.map(({ id }) => id)] }))}
            >
              <Plus size={14} aria-hidden />
              {speak`Working days`}
            </button>
          )}
        </span>
      </div>
      <Grid bench={bench} table={table} inHand={inHand} onPick={onPick} change={change} />
      <RuleGaps
        bench={bench}
        table={table}
        onAdd={(where) => change((now) => insertRow(now, rowFor(newShortId(), where)))}
      />
      {table.rows.length < limits.ruleRows && (
        <button
          type="button"
          className="button-plain mt-1"
          onClick={() => change((now) => insertRow(now, { id: newShortId(), cells: [], gives: [] }))}
        >
          <Plus size={14} aria-hidden />
          {speak`Row`}
        </button>
      )}
      <Troubles besideEditor bench={bench} id={table.id} />
    </li>
  );
}

/** The condition is picked; another than is offered is written in the margin. */
function AddCondition({
  bench,
  table,
  onAdded,
}: {
  readonly bench: Workbench;
  readonly table: RuleTable;
  readonly onAdded: (condition: ConditionInHand) => void;
}) {
  const scope = bench.scope();
  const picks = useMemo(() => conditionsToPick(scope), [scope]);
  if (table.conditions.length >= limits.ruleConditions) return null;
  return (
    <Select
      label={speak`Another condition`}
      value={null}
      placeholder={speak`+ Condition`}
      choices={[
        ...picks.map((text) => ({ value: text, label: text })),
        { value: WRITTEN, label: speak`something worked out` },
      ]}
      onChange={(text) => {
        const id = newShortId();
        const expression = text === WRITTEN ? '' : toStored(text, scope);
        bench.edit((design) =>
          changeRules(design, table.id, (now) => ({
            ...now,
            conditions: [...now.conditions, { id, expression }],
          })),
        );
        if (text === WRITTEN) onAdded({ table: table.id, condition: id });
      }}
    />
  );
}
const WRITTEN = ' ';

/** A calculated answer that no rules fill yet is filled by these as well. */
function AddFill({ bench, table }: { readonly bench: Workbench; readonly table: RuleTable }) {
  const free = calculatedIn(bench.design).filter(({ id }) => filledBy(bench.design, id) === undefined);
  if (free.length === 0 || (table.fills ?? []).length >= limits.ruleFills) return null;
  return (
    <Select
      label={speak`Answer that the rules fill`}
      value={null}
      placeholder={speak`+ Answer`}
      choices={free.map(({ id, label, key }) => ({ value: id, label: label || key }))}
      onChange={(id) => bench.edit((design) => fillBy(design, id, table.id))}
    />
  );
}

interface GridProps extends Props {
  readonly change: (how: (now: RuleTable) => RuleTable) => void;
}

function Grid({ bench, table, inHand, onPick, change }: GridProps) {
  const scope = bench.scope();
  const letters = stepLetters(bench.design.steps);
  const steps = bench.design.steps.filter(({ id }) => table.asks.includes(id));
  const letterOf = (id: string) => letters[bench.design.steps.findIndex((step) => step.id === id)] ?? '';
  const whom = whomChoices(bench);
  const filled = calculatedIn(bench.design).filter(({ id }) => filledBy(bench.design, id) === table);
  const domains = useMemo(
    () => new Map(table.conditions.map((one) => [one.id, conditionDomain(bench.design, bench.tables, one)])),
    [bench.design, bench.tables, table.conditions],
  );
  return (
    <div className="relative overflow-x-auto">
      <table className="grid-table rules-table bg-white">
        <caption className="sr-only">{speak`The rules ${table.label}`}</caption>
        <thead>
          <tr>
            <th className="w-8">
              <span className="sr-only">{speak`Row`}</span>
            </th>
            {table.conditions.map(({ id, expression }, i) => (
              <th key={id} scope="col">
                <button
                  type="button"
                  className="name font-mono"
                  aria-pressed={inHand?.condition === id}
                  onClick={() => onPick({ table: table.id, condition: id })}
                >
                  {toShown(expression, scope) || speak`condition ${i + 1}`}
                </button>
              </th>
            ))}
            {steps.map(({ id, label }) => (
              <th
                key={id}
                scope="col"
                className="border-l-2 border-l-slate-300"
              >{speakIn`Ask${steps.length > 1 && speak` at ${letterOf(id)} ${label}`}`}</th>
            ))}
            {table.days.map((id) => (
              <th
                key={id}
                scope="col"
              >{speakIn`Working days${table.days.length > 1 && speak` at ${letterOf(id)}`}`}</th>
            ))}
            {filled.map(({ id, label, key }) => (
              <th key={id} scope="col" className="border-l-2 border-l-slate-300">
                {label || key}{' '}
                <button
                  type="button"
                  className="button-plain p-0.5! text-slate-600!"
                  aria-label={speak`Let ${label || key} be worked out by itself`}
                  onClick={() => bench.edit((design) => leaveFilling(design, id))}
                >
                  <X size={13} aria-hidden />
                </button>
              </th>
            ))}
            {table.hit === 'P' && <th scope="col">{speak`Weight`}</th>}
            <th className="w-20">
              <span className="sr-only">{speak`Move or take out`}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, at) => (
            <tr key={row.id}>
              <th scope="row" className="font-mono! text-slate-600">
                {at + 1}
                <Marked bench={bench} id={row.id} />
              </th>
              {table.conditions.map((condition) => (
                <td key={condition.id} className="align-top">
                  <RuleCellInput
                    scope={scope}
                    condition={condition}
                    row={row}
                    at={at}
                    known={domains.get(condition.id) ?? null}
                    onChange={(next) => change(withRow(row.id, next))}
                    onBlock={(text) => void pasteRules(bench, table, [row.id, condition.id], text)}
                  />
                </td>
              ))}
              {steps.map(({ id, label }) => (
                <td key={id} className="border-l-2 border-l-slate-300 align-top">
                  <Several
                    label={speak`Whom row ${at + 1} asks at ${label}`}
                    values={givenTo(row, id)}
                    none="whom?"
                    choices={[
                      { value: NOBODY, label: speak`nobody: the step is not asked`, short: speak`nobody` },
                      ...whom,
                    ]}
                    onChange={(picked) => change(withRow(row.id, (now) => asks(now, id, picked, bench)))}
                  />
                  {saysWhom(givesOf(row, id)) || <p className="trouble">{speak`Say whom, or nobody`}</p>}
                </td>
              ))}
              {table.days.map((id) => (
                <td key={id} className="align-top">
                  <DaysCell
                    label={speak`Working days of row ${at + 1}`}
                    days={givesOf(row, id).days}
                    onChange={(days) => change(withRow(row.id, (now) => giveTo(now, id, { days })))}
                  />
                </td>
              ))}
              {filled.map((question) => (
                <td key={question.id} className="border-l-2 border-l-slate-300 align-top">
                  <FillCell
                    bench={bench}
                    table={table}
                    scope={scope}
                    question={question}
                    row={row}
                    at={at}
                    onChange={(how) => change(withRow(row.id, how))}
                  />
                </td>
              ))}
              {table.hit === 'P' && (
                <td className="align-top">
                  <NumberWord
                    label={speak`Weight of row ${at + 1}`}
                    value={weightOf(row)}
                    most={1_000}
                    onChange={(weight) => change(withRow(row.id, (now) => ({ ...now, weight })))}
                  />
                </td>
              )}
              <td className="align-top whitespace-nowrap">
                <RowButtons at={at} of={table.rows.length} row={row} change={change} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const withRow =
  (id: string, how: (row: Rule) => Rule) =>
  (table: RuleTable): RuleTable => ({
    ...table,
    rows: table.rows.map((row) => (row.id === id ? how(row) : row)),
  });

const NOBODY = 'nobody';

const givenTo = (row: Rule, step: string): string[] => {
  const given = givesOf(row, step);
  return given.nobody === true ? [NOBODY] : whomOf(given);
};

/** Nobody, or somebody: what was picked last stands. */
function asks(row: Rule, step: string, picked: readonly string[], bench: Workbench): Rule {
  const wasNobody = givesOf(row, step).nobody === true;
  const isNobody = picked.includes(NOBODY) && (!wasNobody || picked.length === 1);
  const people = isNobody ? [] : picked.filter((one) => one !== NOBODY);
  return giveTo(row, step, { ...askedOf(people, bench), nobody: isNobody ? true : undefined });
}

/** Nothing typed: as long as the step has. */
function DaysCell({
  label,
  days,
  onChange,
}: {
  readonly label: string;
  readonly days: number | undefined;
  readonly onChange: (days: number | undefined) => void;
}) {
  return (
    <input
      key={days}
      aria-label={label}
      defaultValue={days ?? ''}
      inputMode="numeric"
      placeholder={speak`as the step`}
      className="field-sizing-content min-w-8 rounded border border-transparent px-1.5 text-right text-[14px] font-semibold placeholder:font-normal placeholder:text-slate-500 hover:border-slate-300 focus:border-slate-400"
      onBlur={(event) => {
        const text = event.target.value.trim();
        const next = Number(text);
        if (text === '') onChange(undefined);
        else if (Number.isInteger(next) && next >= 1 && next <= limits.withinDays) onChange(next);
        else event.target.value = String(days ?? '');
      }}
    />
  );
}

function RowButtons({
  at,
  of,
  row,
  change,
}: {
  readonly at: number;
  readonly of: number;
  readonly row: Rule;
  readonly change: GridProps['change'];
}) {
  const n = at + 1;
  return (
    <>
      <button
        type="button"
        className="button-plain p-1! text-slate-600! disabled:opacity-30"
        aria-label={speak`Move row ${n} up`}
        disabled={at === 0}
        onClick={() => change((now) => moveRow(now, row.id, -1))}
      >
        <ArrowUp size={14} aria-hidden />
      </button>
      <button
        type="button"
        className="button-plain p-1! text-slate-600! disabled:opacity-30"
        aria-label={speak`Move row ${n} down`}
        disabled={n === of}
        onClick={() => change((now) => moveRow(now, row.id, 1))}
      >
        <ArrowDown size={14} aria-hidden />
      </button>
      <button
        type="button"
        className="button-plain p-1! text-slate-600! disabled:opacity-30"
        aria-label={speak`Take out row ${n}`}
        onClick={() => change((now) => ({ ...now, rows: now.rows.filter(({ id }) => id !== row.id) }))}
      >
        <Trash2 size={14} aria-hidden />
      </button>
    </>
  );
}
