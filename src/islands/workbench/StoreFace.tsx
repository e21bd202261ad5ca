import { Database, ListChecks } from '../kit/icons';
import { useMemo } from 'react';
import { replaceQuestion } from '../../core/form/edit';
import { groupsOf, type FormDesign, type TableTarget } from '../../core/form/design';
import { tablesOf } from '../../core/storage/tables-of';
import type { Table } from '../../core/table/model';
import { kinds } from '../../core/table/kinds/list';
import { planTables } from '../../core/table/plan';
import { newRecordTitle } from '../../core/wording/record-title';
import { changeSentence, columnWords } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import type { FaceProps } from './face-props';

/** Which answer goes to which table and column, and what a release would change. */
export function StoreFace({ bench }: FaceProps) {
  const wanted = useMemo(() => tablesOf(bench.design), [bench.design]);
  return (
    <div className="sheet-frame">
      <div>
        {wanted.map((table) => (
          <TableShown key={table.id} bench={bench} table={table} />
        ))}
      </div>
      <aside id="margin" className="margin-pane" aria-label="What a release would change">
        <PlanMargin bench={bench} wanted={wanted} />
      </aside>
    </div>
  );
}

/** What one of its records is called: the heading of a sheet. */
function RecordWord({ bench }: { bench: Workbench }) {
  const { record = '', table } = bench.design;
  return (
    <Sentence>
      One of its records is called{' '}
      <Word
        label="What one record is called"
        value={record}
        placeholder="as the form"
        onChange={(word) =>
          bench.edit((design) => ({ ...design, record: word.trim() === '' ? undefined : word }))
        }
      />
      {record !== '' && (
        <span className="quiet">
          so a sheet is headed “{newRecordTitle(record)}”, or “{record} {table.prefix}-…” once it is there
        </span>
      )}
    </Sentence>
  );
}

/** What is said after sending, and where it goes on. */
function AfterSending({ bench }: { bench: Workbench }) {
  const { after } = bench.design;
  const set = (part: Partial<NonNullable<FormDesign['after']>>) =>
    bench.edit((design) => {
      const next = { message: '', next: 'submission' as const, ...design.after, ...part };
      return { ...design, after: next.message === '' && next.next === 'submission' ? undefined : next };
    });
  return (
    <Sentence>
      After sending it says{' '}
      <Word
        label="What is said after sending"
        value={after?.message ?? ''}
        placeholder="under which number it was sent"
        onChange={(message) => set({ message })}
      />{' '}
      and goes on to{' '}
      <Select
        label="Where it goes on after sending"
        value={after?.next ?? 'submission'}
        choices={[
          { value: 'submission', label: 'what was sent, with its path' },
          { value: 'another', label: 'another sheet' },
        ]}
        onChange={(next) => set({ next: next === 'another' ? 'another' : 'submission' })}
      />
    </Sentence>
  );
}

export function usePlan(bench: Workbench) {
  return useMemo(
    () => planTables(bench.data.tables, tablesOf(bench.design)),
    [bench.data.tables, bench.design],
  );
}

function TableShown({ bench, table }: { bench: Workbench; table: Table }) {
  // A table and its columns keep the names they were made with, whatever the questions are called since.
  const there = bench.tables.get(table.id);
  const made = there !== undefined;
  const set = (part: Partial<TableTarget>) =>
    bench.edit((design) => {
      if (design.table.id === table.id) return { ...design, table: { ...design.table, ...part } };
      const group = groupsOf(design).find((one) => one.table.id === table.id);
      return group === undefined
        ? design
        : replaceQuestion(design, group.id, (one) =>
            one.kind === 'rows' ? { ...one, table: { ...one.table, ...part } } : one,
          );
    });
  return (
    <section className="border-b border-slate-200 py-3 pr-5 pl-[46px]" aria-label={table.label}>
      <Sentence>
        <Database size={16} aria-hidden className="text-slate-600" />
        {table.parent === null ? 'The answers go to' : 'The rows go to'}{' '}
        <Word label="Name of the table" value={table.label} onChange={(label) => set({ label })} />
        {made ? (
          <>
            kept as <code className="font-mono font-semibold">records.{there.key}</code>
          </>
        ) : (
          <>
            kept as records.
            <Word
              mono
              label="Key of the table"
              value={table.key}
              onChange={(key) => set({ key: key.toLowerCase().replace(/[^a-z0-9_]/g, '_') })}
            />
          </>
        )}
        numbered{' '}
        {made ? (
          <code className="font-mono font-semibold">{there.prefix}</code>
        ) : (
          <Word
            mono
            label="Prefix of its numbers"
            value={table.prefix}
            onChange={(prefix) => set({ prefix: prefix.toUpperCase().slice(0, 6) })}
          />
        )}
        -year-0001{' '}
        <span className={`tag ${made ? 'bg-slate-200 text-slate-800' : 'bg-marker text-ink'}`}>
          {made ? 'there already' : 'will be made'}
        </span>
      </Sentence>
      {table.id === bench.design.table.id && <RecordWord bench={bench} />}
      {table.id === bench.design.table.id && <AfterSending bench={bench} />}
      <div
        className="relative overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label={`Columns of ${table.label}`}
      >
        <table className="grid-table">
          <thead>
            <tr>
              <th>Line</th>
              <th>Answer</th>
              <th>Column</th>
              <th>Kind</th>
              <th>In PostgreSQL</th>
            </tr>
          </thead>
          <tbody>
            {table.parent !== null && (
              <tr>
                <td />
                <td className="quiet">the record it belongs to</td>
                <td className="font-mono text-[13px]">parent_id</td>
                <td>a record</td>
                <td className="font-mono text-[13px]">uuid, not null</td>
              </tr>
            )}
            {table.columns.map((column) => (
              <tr key={column.id}>
                <td className="font-mono text-[13px] text-slate-600">{bench.numbers.get(column.id)}</td>
                <td className="break-words">{column.label}</td>
                <td className="font-mono text-[13px]">
                  {there?.columns.find(({ id }) => id === column.id)?.key ?? column.key}
                </td>
                <td>
                  {columnWords(column)}
                  {column.target !== null && ` of ${bench.tables.get(column.target)?.label ?? '…'}`}
                </td>
                <td className="font-mono text-[13px]">
                  {kinds[column.kind].columnType(column)}
                  {column.required && ', not null'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="quiet mt-1">
        Its number, who made and changed it, when, and its history come by themselves.
      </p>
    </section>
  );
}

function PlanMargin({ bench, wanted }: { bench: Workbench; wanted: Table[] }) {
  const plan = usePlan(bench);
  return (
    <section className="margin-part first">
      <h2 className="margin-title">
        <ListChecks size={16} aria-hidden />A release would
      </h2>
      {!plan.ok &&
        plan.error.map((issue, i) => (
          <p key={i} className="trouble">
            {issueSentence(issue)}
          </p>
        ))}
      {plan.ok && plan.value.length === 0 && (
        <p className="quiet">
          change nothing in the {wanted.length === 1 ? 'table' : `${wanted.length} tables`}.
        </p>
      )}
      {plan.ok && (
        <ol className="grid gap-1 text-[14px]">
          {plan.value.map((change, i) => (
            <li key={i} className="flex gap-2">
              <span className="font-mono text-slate-600">{i + 1}</span>
              {changeSentence(change)}
            </li>
          ))}
        </ol>
      )}
      <p className="quiet mt-2">
        All of it in one transaction, or nothing. No column and no row is ever dropped by a release.
      </p>
    </section>
  );
}
