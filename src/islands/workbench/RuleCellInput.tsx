import { useId, useState, type KeyboardEvent } from 'react';
import { testsToStored, toShown } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import type { ConditionDomain } from '../../core/form/rule-conditions';
import { setTest } from '../../core/form/rule-edits';
import type { Rule, RuleCondition } from '../../core/rules/rules';
import { issueSentence } from '../../core/wording/issue-sentence';
import { cellText, typedTest } from '../../core/wording/rule-cells';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly scope: Scope;
  readonly condition: RuleCondition;
  readonly row: Rule;
  /** From 0. */
  readonly at: number;
  readonly known: ConditionDomain | null;
  readonly onChange: (how: (row: Rule) => Rule) => void;
  /** Several cells at once, as a spreadsheet copies them. */
  readonly onBlock: (text: string) => void;
}

/**
 * A test of one row: words or FEEL are typed, and words stand there where it has them. Enter goes to the row
 * below, arrows between rows.
 */
export function RuleCellInput({ scope, condition, row, at, known, onChange, onBlock }: Props) {
  const id = useId();
  const shown = cellText(row, condition, scope, known);
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? shown;
  const read = typedTest(text, condition, scope, known);
  const trouble = read.ok ? undefined : read.error[0];
  const keep = () => {
    if (typed === null) return;
    setTyped(null);
    // What cannot be read is kept as it was typed: it stands there, with what is wrong, until it is mended.
    const test = read.ok ? read.value : testsToStored(typed, scope, toShown(condition.expression, scope));
    onChange((now) => setTest(now, condition.id, test));
  };
  const offers = offersOf(known);
  return (
    <>
      <input
        aria-label={speak`${toShown(condition.expression, scope) || speak`Condition`}, row ${at + 1}`}
        aria-invalid={trouble !== undefined}
        aria-describedby={trouble === undefined ? undefined : `${id}trouble`}
        data-rule-cell={condition.id}
        list={offers.length > 0 ? id : undefined}
        className={`field-sizing-content w-full min-w-24 rounded border px-1.5 py-0.5 text-[14px] ${trouble === undefined ? 'border-transparent hover:border-slate-300 focus:border-slate-400' : 'border-rust'} ${text === 'any' ? 'text-slate-600' : 'font-semibold'}`}
        value={text}
        maxLength={1_000}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onPaste={(event) => {
          const block = event.clipboardData.getData('text/plain');
          if (!/[\t\n]/.test(block.trim())) return;
          event.preventDefault();
          setTyped(null);
          onBlock(block);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setTyped(null);
          else if (['Enter', 'ArrowDown', 'ArrowUp'].includes(event.key)) toOther(event, offers.length > 0);
        }}
      />
      {offers.length > 0 && (
        <datalist id={id}>
          {offers.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
      {trouble !== undefined && (
        <p id={`${id}trouble`} className="trouble">
          {issueSentence(trouble)}
        </p>
      )}
    </>
  );
}

const offersOf = (known: ConditionDomain | null): string[] => {
  if (known === null) return [];
  if (known.type.t === 'yes-no') return ['any', 'yes', 'no'];
  return known.choices === undefined ? [] : ['any', ...known.choices.map(({ label }) => label)];
};

/** To the same condition in the row below or above; where something is offered the arrows go through that. */
function toOther(event: KeyboardEvent<HTMLInputElement>, hasOffers: boolean): void {
  if (hasOffers && event.key !== 'Enter') return;
  event.preventDefault();
  const { ruleCell } = event.currentTarget.dataset;
  const cells = [...document.querySelectorAll<HTMLInputElement>(`[data-rule-cell="${ruleCell}"]`)];
  const by = event.key === 'ArrowUp' ? -1 : 1;
  const next = cells[cells.indexOf(event.currentTarget) + by];
  if (next === undefined) event.currentTarget.blur();
  else next.focus();
}
