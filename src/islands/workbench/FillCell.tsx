import { toShown, toStored } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import type { CalculatedQuestion } from '../../core/form/design';
import { setFill } from '../../core/form/rule-edits';
import { fillOf, type Rule, type RuleTable } from '../../core/rules/rules';
import { issueSentence } from '../../core/wording/issue-sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly bench: Workbench;
  readonly table: RuleTable;
  readonly scope: Scope;
  readonly question: CalculatedQuestion;
  readonly row: Rule;
  /** From 0. */
  readonly at: number;
  readonly onChange: (how: (row: Rule) => Rule) => void;
}

/** What a row gives an answer: a number, a text in quotes, or anything worked out. */
export function FillCell({ bench, table, scope, question, row, at, onChange }: Props) {
  const stored = fillOf(row, question.id);
  const shown = toShown(stored, scope);
  const trouble = bench.issuesAt(table.id).find(({ path }) => path[2] === row.id && path[3] === question.id);
  return (
    <>
      <input
        key={shown}
        aria-label={speak`${question.label} of row ${at + 1}`}
        aria-invalid={trouble !== undefined}
        className={`field-sizing-content w-full min-w-16 rounded border px-1.5 py-0.5 font-mono text-[14px] ${trouble === undefined ? 'border-transparent hover:border-slate-300 focus:border-slate-400' : 'border-rust'}`}
        defaultValue={shown}
        placeholder={speak`as else`}
        maxLength={1_000}
        onBlur={({ target }) => {
          const next = toStored(target.value, scope);
          if (next.trim() !== stored) onChange((now) => setFill(now, question.id, next));
        }}
      />
      {trouble !== undefined && <p className="trouble">{issueSentence(trouble)}</p>}
    </>
  );
}
