import { Equal, Trash2 } from '../kit/icons';
import { useState } from 'react';
import { comparedInForm, existingSentence } from '../../core/check/existing';
import { messageShown } from '../../core/check/message';
import { toShown } from '../../core/expression/stored-text';
import type { Check, ExistingCheck } from '../../core/check/check';
import {
  allQuestions,
  groupsOf,
  isField,
  questionsOf,
  type CalculatedQuestion,
  type RowsQuestion,
} from '../../core/form/design';
import { checksOfTables } from '../../core/form/checks-of-tables';
import { tableScope } from '../../core/record/table-scope';
import { counted } from '../../core/wording/numbers';
import { issueSentence } from '../../core/wording/issue-sentence';
import { AddCheckLine } from '../kit/AddCheckLine';
import { Select } from '../kit/Select';
import { addCheck } from './add-check';
import { CheckMargin } from './CheckMargin';
import type { Workbench } from './use-workbench';
import type { FaceProps } from './face-props';
import { CheckTag, ConditionWords } from '../kit/CheckWords';

const groupAt = (bench: Workbench, id: string): RowsQuestion | undefined =>
  groupsOf(bench.design).find(({ columns }) => columns.some((column) => column.id === id));

type Show = (typeof shows)[number]['value'];
const shows = [
  { value: 'all', label: 'all lines' },
  { value: 'stop', label: 'what stops' },
  { value: 'ask', label: 'what asks for a reason' },
  { value: 'calculated', label: 'calculations' },
  { value: 'tables', label: 'checks of the tables' },
  { value: 'wrong', label: 'what is to be fixed' },
] as const;

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
export function CheckFace({ bench }: FaceProps) {
  const { design } = bench;
  const [inHand, setInHand] = useState<string | null>(design.checks[0]?.id ?? null);
  const order = questionsOf(design).flatMap((question) => [
    question.id,
    ...(question.kind === 'rows' ? [...question.columns, ...question.totals].map(({ id }) => id) : []),
  ]);
  const checks = [...design.checks, ...(design.existing ?? [])].sort(
    (a, b) => order.indexOf(a.on) - order.indexOf(b.on),
  );
  const calculated = allQuestions(design).filter((one) => one.kind === 'calculated');
  const [show, setShow] = useState<Show>('all');
  const check = design.checks.find(({ id }) => id === inHand) ?? null;
  return (
    <div className="sheet-frame">
      <div>
        <h2 className="flex flex-wrap items-baseline gap-x-2 border-b border-slate-200 py-3 pr-5 pl-[46px] font-sans text-[15px]">
          {checks.length} {checks.length === 1 ? 'check' : 'checks'}, {calculated.length}{' '}
          {calculated.length === 1 ? 'calculation' : 'calculations'}{' '}
          <span className="quiet font-normal">in the order a colleague meets them</span>
          <span className="ml-auto flex items-center gap-1.5 font-normal">
            <span className="quiet">Show</span>
            <Select
              label="Which lines are shown"
              value={show}
              choices={shows}
              onChange={(value) => setShow(value as Show)}
            />
          </span>
        </h2>
        {checks.length === 0 && (
          <p className="py-4 pl-[46px] text-[14px]">
            Nothing is checked yet beyond what must be filled. Add a check in the margin.
          </p>
        )}
        <ul>
          {calculated
            .filter((one) => isShown(bench, show, one))
            .map((one) => (
              <li key={one.id} className="line">
                <span className="gutter">{bench.numbers.get(one.id)}</span>
                <div>
                  <p>
                    {groupAt(bench, one.id) && 'Each row: '}
                    <span className="name">{one.key}</span> is{' '}
                    <span className="name font-mono text-[14px]">
                      {toShown(one.expression, bench.scope(groupAt(bench, one.id))) || '…'}
                    </span>
                  </p>
                  <p>
                    <span className="tag bg-lichen-soft text-lichen-deep">
                      <Equal size={14} aria-hidden />
                      Calculates
                    </span>{' '}
                    <span className="quiet">to {counted(one.decimals, 'decimal')}, half up</span>
                  </p>
                </div>
              </li>
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
                  onPick={() => setInHand(one.id)}
                />
              ),
            )}
        </ul>
        {(show === 'all' || show === 'tables') && <ChecksOfTables bench={bench} />}
        <AddCheck bench={bench} onAdd={(id) => setInHand(addCheck(bench, id))} />
      </div>
      <aside id="margin" className="margin-pane" aria-label="The check in hand">
        {check === null ? (
          <p className="margin-part first quiet">Pick a check on the sheet, or add one.</p>
        ) : (
          <CheckMargin key={check.id} bench={bench} check={check} group={groupAt(bench, check.on)} />
        )}
      </aside>
    </div>
  );
}

function CheckLine({
  bench,
  check,
  inHand,
  onPick,
}: {
  bench: Workbench;
  check: Check;
  inHand: boolean;
  onPick: () => void;
}) {
  const scope = bench.scope(groupAt(bench, check.on));
  const troubles = bench.issuesAt(check.id);
  return (
    <li
      className={`line relative ${inHand ? 'bg-lichen-soft before:absolute before:inset-y-0 before:left-0 before:w-1 before:bg-lichen' : ''}`}
    >
      <span className="gutter">{bench.numbers.get(check.on)}</span>
      <div>
        <button
          type="button"
          aria-pressed={inHand}
          onClick={onPick}
          className="block w-full rounded text-left"
        >
          {groupAt(bench, check.on) && 'Each row: '}
          <ConditionWords must={check.must} scope={scope} />
        </button>
        <p className="mt-0.5 flex flex-wrap items-center gap-2">
          <CheckTag otherwise={check.otherwise} message={messageShown(check.message, scope)} />
        </p>
        {troubles.slice(0, 2).map((issue, i) => (
          <p key={i} className="trouble">
            {issueSentence(issue)}
          </p>
        ))}
      </div>
    </li>
  );
}

/** What the tables this form writes to demand of it: designed there, and asked here without being written again. */
function ChecksOfTables({ bench }: { bench: Workbench }) {
  const found = checksOfTables(bench.design, bench.tables);
  if (found.length === 0) return null;
  return (
    <ul aria-label="Checks of the tables this form writes to">
      {found.map(({ check, table, group }) => (
        <li key={check.id} className="line">
          <span className="gutter">{bench.numbers.get(check.on)}</span>
          <div>
            <p>
              {group !== null && 'Each row: '}
              <ConditionWords must={check.must} scope={tableScope(table, bench.tables)} />
            </p>
            <p className="mt-0.5 flex flex-wrap items-center gap-2">
              <CheckTag otherwise={check.otherwise} message={check.message} />{' '}
              <a href={`/tables/${table.key}/design`} className="text-[14px] text-slate-700">
                from the table {table.label}
              </a>
            </p>
            {bench
              .issuesAt(check.id)
              .slice(0, 2)
              .map((issue, i) => (
                <p key={i} className="trouble">
                  {issueSentence(issue)}
                </p>
              ))}
          </div>
        </li>
      ))}
    </ul>
  );
}

/** What must hold among the records there are; the database decides it when a record is kept. */
function ExistingLine({ bench, check }: { bench: Workbench; check: ExistingCheck }) {
  const takeOut = () =>
    bench.edit((design) => ({
      ...design,
      existing: (design.existing ?? []).filter(({ id }) => id !== check.id),
    }));
  return (
    <li className="line">
      <span className="gutter">{bench.numbers.get(check.on)}</span>
      <div>
        <p>Among all records, {existingSentence(check, comparedInForm(bench.design, check))}</p>
        <p className="mt-0.5 flex flex-wrap items-center gap-2">
          <CheckTag otherwise="stop" message={check.message} />{' '}
          <button type="button" className="button-plain" onClick={takeOut}>
            <Trash2 size={14} aria-hidden />
            Take it out
          </button>
        </p>
        {bench
          .issuesAt(check.id)
          .slice(0, 2)
          .map((issue, i) => (
            <p key={i} className="trouble">
              {issueSentence(issue)}
            </p>
          ))}
      </div>
    </li>
  );
}

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
