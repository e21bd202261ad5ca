import type { RuleTable } from '../../core/rules/rules';
import { RuleExchange } from './RuleExchange';
import { TriangleAlert } from '../kit/icons';
import type { Workbench } from './use-workbench';
import { useRuleFindings } from './use-rule-findings';
import { speak } from '../../core/wording/speak';

/** What is found by reading a table of rules. */
export function RuleFound({ bench, table }: { readonly bench: Workbench; readonly table: RuleTable }) {
  const { found, words } = useRuleFindings(bench, table);
  const told = [
    ...found.overlaps.map(
      ({ rows: [one, other], at }) =>
        speak`Rows ${one + 1} and ${other + 1} both fit ${words(at)}. One alone may.`,
    ),
    ...found.never.map((row) => speak`Row ${row + 1} never counts: others do wherever it fits.`),
    ...(found.unknown.length === 0
      ? []
      : [
          speak`${found.unknown.length === 1 ? speak`Row` : speak`Rows`} ${found.unknown.map((row) => row + 1).join(', ')} cannot be looked through.`,
        ]),
  ];
  return (
    <section className="margin-part">
      <h2 className="margin-title">
        <TriangleAlert size={16} aria-hidden />
        {speak`Found by reading ${table.label}`}
      </h2>
      <ul className="grid gap-1.5 text-[14px]" aria-live="polite">
        {told.map((words) => (
          <li key={words}>{words}</li>
        ))}
        <li className={told.length === 0 ? '' : 'quiet'}>
          {[
            found.overlaps.length === 0 && speak`No two rows are at odds.`,
            found.gaps.length === 0
              ? speak`Something fits whatever is sent.`
              : speak`${found.gaps.length === 1 ? speak`One gap` : speak`${found.gaps.length} gaps`}, marked.`,
          ]
            .filter((one) => one !== false)
            .join(' ')}
        </li>
      </ul>
      <RuleExchange bench={bench} table={table} />
    </section>
  );
}
