import { Trash2 } from '../kit/icons';
import type { Check } from '../../core/check/check';
import { read } from '../../core/expression/read';
import { storedScope, toShown } from '../../core/expression/stored-text';
import { questionsOf, type CalculatedQuestion, type RowsQuestion } from '../../core/form/design';
import { replaceCheck, replaceQuestion } from '../../core/form/edit';
import { filterScope } from '../../core/record/table-scope';
import { Otherwise, Picks } from '../kit/CheckPicks';
import { ExpressionInput } from '../kit/ExpressionInput';
import { AtHand, Reads } from './AtHand';
import { FilledBy } from './FilledBy';
import { Impact } from './Impact';
import type { Example } from './use-example';
import { MessageInput } from './MessageInput';
import { Troubles } from './Troubles';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

const ownKey = (bench: Workbench, id: string): string =>
  questionsOf(bench.design)
    .flatMap((question) =>
      question.kind === 'rows'
        ? [question, ...question.columns, ...question.totals]
        : ([question] as readonly { id: string; key: string }[]),
    )
    .find((one) => one.id === id)?.key ?? '';

/** Where the grid shows what breaks a check; null where its table cannot say it by its columns. */
function breakingAddress(bench: Workbench, check: Check, group: RowsQuestion | undefined): string | null {
  const table = bench.tables.get((group?.table ?? bench.design.table).id);
  if (table === undefined) return null;
  const scope = filterScope(table, bench.tables);
  if (!read(check.must, storedScope(scope)).ok) return null;
  return `/tables/${table.key}?where=${encodeURIComponent(`not(${toShown(check.must, scope)})`)}`;
}

/** The check in hand: what must hold, what it says, and what it would have done. */
export function CheckMargin({
  bench,
  check,
  group,
  example,
}: {
  bench: Workbench;
  check: Check;
  group: RowsQuestion | undefined;
  example: Example;
}) {
  const scope = bench.scope(group);
  const change = (part: Partial<Check>) => bench.edit((design) => replaceCheck(design, check.id, part));
  return (
    <>
      <section className="margin-part first" aria-label={speak`The check`}>
        <h2 className="margin-title text-ink!">
          <span className="font-mono text-[13px] text-lichen">{bench.numbers.get(check.on)}</span>
          {group === undefined ? speak`Check` : speak`In each row of ${group.label}`}
        </h2>
        <Picks
          must={check.must}
          scope={scope}
          change={(must) => change({ must })}
          ownKey={ownKey(bench, check.on)}
        />
        <Otherwise check={check} change={change} />
        <MessageInput
          label={speak`Message`}
          message={check.message}
          scope={scope}
          placeholder={speak`Above the label’s top rate.`}
          onChange={(message) => change({ message })}
        />
        <Impact
          formId={bench.data.id}
          check={check}
          sound={bench.issuesAt(check.id).length === 0}
          what={group === undefined ? 'records' : 'rows'}
          address={breakingAddress(bench, check, group)}
        />
        <p className="mt-3 mb-1 text-[14px]">{speak`As an expression`}</p>
        <ExpressionInput
          label={speak`Condition as an expression`}
          example="rate &lt;= top_rate"
          stored={check.must}
          scope={scope}
          onChange={(must) => change({ must })}
        />
      </section>
      <AtHand bench={bench} stored={check.must} group={group} example={example} />
      <Reads bench={bench} stored={check.must} group={group} id={null} />
      <section className="margin-part">
        <button
          type="button"
          className="button button-stop"
          onClick={() =>
            bench.edit((design) => ({ ...design, checks: design.checks.filter(({ id }) => id !== check.id) }))
          }
        >
          <Trash2 size={15} aria-hidden />
          {speak`Take it out`}
        </button>
      </section>
    </>
  );
}

/** The calculation in hand: what it is worked out from, and what it comes to. Its other settings are with its line. */
export function CalculationMargin({
  bench,
  question,
  group,
  example,
  onSettings,
}: {
  bench: Workbench;
  question: CalculatedQuestion;
  group: RowsQuestion | undefined;
  example: Example;
  onSettings: () => void;
}) {
  return (
    <>
      <section className="margin-part first" aria-label={speak`The calculation`}>
        <h2 className="margin-title text-ink!">
          <span className="font-mono text-[13px] text-lichen">{bench.numbers.get(question.id)}</span>
          {group === undefined ? question.label : speak`${question.label}, in each row of ${group.label}`}
        </h2>
        {group === undefined && <FilledBy bench={bench} question={question} />}
        <ExpressionInput
          label={speak`Expression`}
          stored={question.expression}
          own={question.key}
          scope={bench.scope(group)}
          onChange={(expression) =>
            bench.edit((design) =>
              replaceQuestion(design, question.id, (one) => ({ ...one, expression }) as CalculatedQuestion),
            )
          }
        />
        <Troubles besideEditor bench={bench} id={question.id} />
      </section>
      <AtHand bench={bench} stored={question.expression} group={group} example={example} />
      <Reads bench={bench} stored={question.expression} group={group} id={question.id} />
      <section className="margin-part">
        <button type="button" className="button" onClick={onSettings}>{speak`Its other settings`}</button>
      </section>
    </>
  );
}
