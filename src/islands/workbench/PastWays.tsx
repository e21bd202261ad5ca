import { useQuery } from '@tanstack/react-query';
import type { PastPaths } from '../../contract/rehearsals';
import { rulesIn } from '../../core/form/design';
import { conditionDomain } from '../../core/form/rule-conditions';
import { testOf, type Rule, type RuleTable } from '../../core/rules/rules';
import { cellText } from '../../core/wording/rule-cells';
import { digits } from '../../core/wording/numbers';
import { stepLetters } from '../../core/wording/step-sentence';
import { fetched } from '../kit/call';
import { History } from '../kit/icons';
import { useSettled } from './use-settled';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

/** After the last edit: a hundred sheets are worked out. */
const ASK_AFTER_MS = 900;

/** What was sent lately, held against the draft: how often each step is asked and each row counts, and what would go another way. */
export function PastWays({ bench }: { readonly bench: Workbench }) {
  const { design } = bench;
  const settled = useSettled(design, ASK_AFTER_MS);
  const { data } = useQuery({
    queryKey: ['past-paths', bench.data.id, settled],
    queryFn: async () => {
      await bench.keep();
      return fetched<PastPaths>(`/api/forms/${bench.data.id}/rehearsal/paths`);
    },
    enabled: bench.data.released !== null && bench.issues.length === 0 && design.steps.length > 0,
    placeholderData: (before) => before,
    retry: false,
  });
  if (data === undefined || data.looked === 0) return null;
  const letters = stepLetters(design.steps);
  return (
    <section className="margin-part" aria-labelledby="past-ways">
      <h2 id="past-ways" className="margin-title">
        <History size={16} aria-hidden />
        {speak`With the last ${data.looked === 1 ? speak`one` : digits(data.looked)} sent`}
      </h2>
      <Bars
        of={data.looked}
        bars={design.steps.map(({ id, label }, i) => ({
          key: id,
          mark: letters[i] ?? '',
          label,
          count: data.steps.find((step) => step.id === id)?.count ?? 0,
        }))}
      />
      {data.rules.map((one) => (
        <RuleBars key={one.id} bench={bench} counted={one} of={data.looked} />
      ))}
      <Others past={data} />
    </section>
  );
}

function RuleBars({
  bench,
  counted,
  of,
}: {
  readonly bench: Workbench;
  readonly counted: PastPaths['rules'][number];
  readonly of: number;
}) {
  const table = rulesIn(bench.design).find(({ id }) => id === counted.id);
  if (table === undefined) return null;
  return (
    <>
      <h3 className="quiet mt-3 mb-1 font-sans font-normal">{table.label}</h3>
      <Bars
        of={of}
        bars={[
          ...table.rows.map((row, i) => ({
            key: row.id,
            mark: String(i + 1),
            label: rowWords(bench, table, row),
            count: counted.rows.find(({ id }) => id === row.id)?.count ?? 0,
          })),
          ...[
            { key: 'nothing', label: speak`nothing fits`, count: counted.nothing },
            { key: 'several', label: speak`too many fit`, count: counted.several },
          ]
            .filter(({ count }) => count > 0)
            .map((bar) => ({ ...bar, mark: '!', warns: true })),
        ]}
      />
    </>
  );
}

/** What a row fits: “over 500, Nursery”. */
function rowWords({ design, tables, scope }: Workbench, table: RuleTable, row: Rule): string {
  const words = table.conditions
    .filter(({ id }) => testOf(row, id) !== '')
    .map((condition) => cellText(row, condition, scope(), conditionDomain(design, tables, condition)));
  return words.join(', ') || speak`anything`;
}

interface Bar {
  readonly key: string;
  readonly mark: string;
  readonly label: string;
  readonly count: number;
  readonly warns?: boolean;
}

const Bars = ({ bars, of }: { readonly bars: readonly Bar[]; readonly of: number }) => (
  <ul className="grid gap-1 text-[14px]">
    {bars.map(({ key, mark, label, count, warns = false }) => (
      <li key={key} className={`flex min-w-0 items-center gap-2 ${warns ? 'font-semibold text-ochre' : ''}`}>
        <span className="w-4 shrink-0 font-mono text-[13px]">{mark}</span>
        <span className="min-w-0 flex-1 truncate">{label}</span>
        <span aria-hidden className="h-3 w-28 shrink-0 overflow-hidden rounded-sm bg-slate-200">
          <span
            className={`block h-full ${warns ? 'bg-ochre' : 'bg-slate-700'}`}
            style={{ width: `${(100 * count) / of}%` }}
          />
        </span>
        <span className="w-9 shrink-0 text-right font-mono">{digits(count)}</span>
      </li>
    ))}
  </ul>
);

function Others({ past: { others, other, looked } }: { readonly past: PastPaths }) {
  if (others === 0)
    return (
      <p className="quiet mt-2">{speak`${looked === 1 ? speak`It goes` : speak`All of them go`} the way they went.`}</p>
    );
  return (
    <details className="mt-2 text-[14px]">
      <summary className="cursor-pointer font-semibold">{speak`${digits(others)} would go another way than ${others === 1 ? speak`it` : speak`they`} did`}</summary>
      <ul className="mt-1 grid gap-2">
        {other.map(({ id, number, was, now }) => (
          <li key={id}>
            <a href={`/submissions/${id}`}>{number}</a>: {now}
            <span className="quiet block">{speak`it was ${was}`}</span>
          </li>
        ))}
        {others > other.length && (
          <li className="quiet">{speak`and ${digits(others - other.length)} more`}</li>
        )}
      </ul>
    </details>
  );
}
