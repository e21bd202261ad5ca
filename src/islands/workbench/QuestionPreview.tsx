import type { TotalOf } from '../../core/form/totals';
import { CalendarDays, CircleX, Search } from '../kit/icons';
import { offered } from '../../core/table/choice-list';
import {
  groupsIn,
  homeOf,
  isField,
  type FieldQuestion,
  type Question,
  type RowsQuestion,
} from '../../core/form/design';
import { toShown } from '../../core/expression/stored-text';
import { issueSentence } from '../../core/wording/issue-sentence';
import { kindWords } from '../../core/wording/kind-words';
import { ColumnSpot } from './Spots';
import { NextColumn } from './NextLines';
import { FixedTextView } from '../kit/FixedTextView';
import { Marked } from './Marked';
import { clickLine, pressLine } from './line-keys';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** A total as somebody would write it. */
const asFeel: Readonly<Record<TotalOf, string>> = {
  sum: 'sum',
  count: 'count',
  mean: 'mean',
  least: 'min',
  most: 'max',
};

/** One question as colleagues will meet it. */
export function QuestionPreview({ bench, question }: { bench: Workbench; question: Question }) {
  const troubles = bench.issuesAt(question.id);
  return (
    <>
      <button
        type="button"
        aria-pressed={bench.hand.includes(question.id)}
        data-line={question.id}
        onClick={(event) => clickLine(event, bench, question.id)}
        onKeyDown={(event) => pressLine(event, bench, question.id)}
        className="block w-full rounded text-left select-none"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="min-w-0 font-semibold break-words">
            {question.label ||
              (question.kind !== 'fixed-text' && (
                <em className="font-normal text-slate-600">{speak`question without words`}</em>
              ))}
            {question.required && question.kind !== 'calculated' && (
              <span className="ml-1.5 text-rust" aria-label={speak`must be filled`}>
                ✱
              </span>
            )}
          </span>
          <span className="mr-auto">
            <Marked bench={bench} id={question.id} />
          </span>
          {question.kind !== 'fixed-text' && (
            <span className="shrink-0 font-mono text-[13px] text-slate-600">{question.key}</span>
          )}
        </span>
        {question.hidden === true && <span className="quiet block">{speak`hidden, and fills itself`}</span>}
        {question.askWhen !== undefined && (
          <span className="quiet block break-words">{speakIn`asked only while ${(
            <code className="font-mono">
              {toShown(question.askWhen, bench.scope(homeOf(bench.design, question.id) ?? undefined)) || '…'}
            </code>
          )}`}</span>
        )}
        {isField(question) && <FieldPreview bench={bench} question={question} />}
        {question.kind === 'fixed-text' && question.text === '' && (
          <span className="mt-1 block text-slate-600">{speak`the text that is to stand here`}</span>
        )}
      </button>
      {question.kind === 'fixed-text' && question.text !== '' && (
        <FixedTextView question={{ ...question, label: '' }} />
      )}
      {question.kind === 'rows' && <RowsPreview bench={bench} group={question} />}
      {troubles.slice(0, 2).map((issue, i) => (
        <p key={i} className="trouble">
          <CircleX size={15} aria-hidden className="mt-0.5 shrink-0" />
          {issueSentence(issue)}
        </p>
      ))}
    </>
  );
}

function FieldPreview({ bench, question }: { bench: Workbench; question: FieldQuestion }) {
  if (question.kind === 'yes-no')
    return (
      <span className="mt-1 flex gap-4 text-slate-700">
        <span>{speak`○ Yes`}</span>
        <span>{speak`○ No`}</span>
      </span>
    );
  if (question.kind === 'confirmation')
    return <span className="mt-1 block text-slate-700">☐ {question.statement || speak`Yes`}</span>;
  if (question.kind === 'choices')
    return (
      <span className="mt-1 flex flex-wrap gap-x-4 text-slate-700">
        {offered(question.choices).map(({ code, label }) => (
          <span key={code}>☐ {label}</span>
        ))}
        {question.choices.length === 0 && 'choices'}
      </span>
    );
  if (question.kind === 'calculated')
    return (
      <span className="calculated-value mt-1">
        <span className="truncate font-mono text-[14px]">
          {toShown(question.expression, bench.scope()) || speak`what is calculated?`}
        </span>
      </span>
    );
  const words =
    question.kind === 'lookup'
      ? speak`Pick from ${bench.tables.get(question.table)?.label ?? '…'}`
      : question.kind === 'choice'
        ? offered(question.choices)
            .map(({ label }) => label)
            .join(' · ') || 'choices'
        : kindWords()[question.kind];
  return (
    <span
      className={`box mt-1 flex items-center justify-between text-slate-600 ${question.kind === 'text' && question.long ? 'min-h-16' : ''}`}
    >
      <span className="truncate">{words}</span>
      {question.kind === 'lookup' && <Search size={15} aria-hidden />}
      {question.kind === 'date' && <CalendarDays size={15} aria-hidden />}
    </span>
  );
}

function RowsPreview({ bench, group }: { bench: Workbench; group: RowsQuestion }) {
  const scope = bench.scope(group);
  const words = (column: FieldQuestion): string => {
    if (column.kind === 'lookup') return speak`pick from ${bench.tables.get(column.table)?.label ?? '…'}`;
    return column.kind === 'calculated' ? toShown(column.expression, scope) : kindWords()[column.kind];
  };
  return (
    <div className="relative mt-1 overflow-x-auto">
      <table className="grid-table">
        <thead>
          <tr>
            {group.columns.map((column) => (
              <ColumnSpot
                key={column.id}
                id={column.id}
                group={group.id}
                words={speak`the column ${column.label}`}
              >
                <button
                  type="button"
                  aria-pressed={bench.hand.includes(column.id)}
                  data-line={column.id}
                  onClick={(event) => clickLine(event, bench, column.id)}
                  onKeyDown={(event) => pressLine(event, bench, column.id)}
                  className={`w-full rounded px-2 py-1 text-left select-none ${bench.hand.includes(column.id) ? 'bg-lichen text-white' : 'text-slate-700 hover:bg-slate-100'}`}
                >
                  {column.label || 'column'}
                  {'unit' in column && column.unit !== '' && `, ${column.unit}`}
                  {column.required && column.kind !== 'calculated' && ' ✱'}
                  <Marked bench={bench} id={column.id} />
                </button>
              </ColumnSpot>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            {group.columns.map((column) => (
              <td
                key={column.id}
                className={
                  column.kind === 'calculated'
                    ? 'font-mono text-[13px] font-semibold text-lichen-deep'
                    : 'text-slate-600'
                }
              >
                {words(column)}
              </td>
            ))}
          </tr>
        </tbody>
        {group.totals.length > 0 && (
          <tfoot>
            <tr>
              {group.columns.map((column) => (
                <td key={column.id} className="font-mono text-[13px] font-semibold text-lichen-deep">
                  {group.totals
                    .filter((total) => total.column === column.id)
                    .map(
                      (total) => `${total.label}: ${asFeel[total.of ?? 'sum']}(${group.key}.${column.key})`,
                    )}
                </td>
              ))}
            </tr>
          </tfoot>
        )}
      </table>
      {group.columns
        .flatMap((column) => bench.issuesAt(column.id))
        .slice(0, 3)
        .map((issue, i) => (
          <p key={i} className="trouble">
            <CircleX size={15} aria-hidden className="mt-0.5 shrink-0" />
            {issueSentence(issue)}
          </p>
        ))}
      <NextColumn bench={bench} group={group} />
      {groupsIn(bench.design, group).map((inner) => (
        <div key={inner.id} className="mt-2 ml-4 border-l-2 border-slate-200 pl-3">
          <QuestionPreview bench={bench} question={inner} />
        </div>
      ))}
    </div>
  );
}
