import { useMemo } from 'react';
import { planTables } from '../../core/table/plan';
import type { TableChange } from '../../core/table/change';
import type { Table } from '../../core/table/model';
import { tablesOf } from '../../core/storage/tables-of';
import { changeSentence } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { ListChecks } from '../kit/icons';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

export function usePlan(bench: Workbench) {
  return useMemo(
    () => planTables(bench.data.tables, tablesOf(bench.design)),
    [bench.data.tables, bench.design],
  );
}

/** The changes of the tables in their order. */
export function PlannedChanges({ changes }: { changes: readonly TableChange[] }) {
  return (
    <ol className="mb-3 grid gap-1 text-[14px]">
      {changes.map((change, i) => (
        <li key={i} className="flex gap-2">
          <span className="font-mono text-slate-600">{i + 1}</span>
          {changeSentence(change)}
        </li>
      ))}
    </ol>
  );
}

/** What a release would do to the tables. */
export function PlanMargin({
  bench,
  wanted,
  isFirst,
}: {
  bench: Workbench;
  wanted: readonly Table[];
  isFirst: boolean;
}) {
  const plan = usePlan(bench);
  return (
    <section className={`margin-part ${isFirst ? 'first' : ''}`}>
      <h2 className="margin-title">
        <ListChecks size={16} aria-hidden />
        {speak`A release would`}
      </h2>
      {!plan.ok &&
        plan.error.map((issue, i) => (
          <p key={i} className="trouble">
            {issueSentence(issue)}
          </p>
        ))}
      {plan.ok && plan.value.length === 0 && (
        <p className="quiet">
          {speak`change nothing in the ${wanted.length === 1 ? speak`table` : speak`${wanted.length} tables`}`}
          .
        </p>
      )}
      {plan.ok && <PlannedChanges changes={plan.value} />}
      <p className="quiet mt-2">{speak`All of it in one transaction, or nothing. No column and no row is ever dropped by a release.`}</p>
    </section>
  );
}
