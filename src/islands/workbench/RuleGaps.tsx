import type { Where } from '../../core/rules/findings';
import type { RuleTable } from '../../core/rules/rules';
import type { Workbench } from './use-workbench';
import { useRuleFindings } from './use-rule-findings';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Shown at once; more are told by their number. */
const FEW = 3;

/** What no row fits, and what becomes of it. */
export function RuleGaps({
  bench,
  table,
  onAdd,
}: {
  readonly bench: Workbench;
  readonly table: RuleTable;
  readonly onAdd: (where: Where) => void;
}) {
  const { found, words } = useRuleFindings(bench, table);
  const { gaps, more } = found;
  if (gaps.length === 0) return null;
  const steps = bench.design.steps.filter(({ id }) => table.asks.includes(id));
  const fallbacks = [...new Set(steps.map(({ fallback }) => fallback))];
  const names = fallbacks.map((id) => bench.data.people.find((one) => one.id === id)?.name ?? null);
  const rest = gaps.length - FEW;
  return (
    <ul className="bg-marker-soft text-[14px]">
      {gaps.slice(0, FEW).map((where) => (
        <li
          key={JSON.stringify(where)}
          className="border-b border-slate-200 px-3 py-2"
        >{speakIn`Nothing fits ${(<strong>{words(where)}</strong>)}. ${names.includes(null) ? speak`It cannot be sent.` : speak`Then ${names.join(speak` and `)} is asked.`} ${(<button type="button" className="button-plain" onClick={() => onAdd(where)}>{speak`Add the row`}</button>)}`}</li>
      ))}
      {rest > 0 && (
        <li className="px-3 py-2">{speak`${more ? speak`And more` : speak`And ${rest} more`} that nothing fits.`}</li>
      )}
    </ul>
  );
}
