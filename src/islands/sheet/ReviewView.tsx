import { useQuery } from '@tanstack/react-query';
import { MessageSquareWarning } from '../kit/icons';
import { useCallback, useMemo } from 'react';
import type { SheetData, SubmissionData } from '../../contract/answers-from-server';
import { cellKey } from '../../core/approval/changes';
import { reasonsAsked } from '../../core/check/sheet-issues';
import {
  groupsOf,
  isField,
  lineNumbers,
  linesOf,
  rowLetter,
  type FieldQuestion,
  type FilesQuestion,
  type Line,
  type RowsQuestion,
} from '../../core/form/design';
import { shown } from '../../core/form/cells';
import { columnKindOf } from '../../core/form/column-kind';
import type { Value } from '../../core/expression/value';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { StateTag } from '../kit/StateTag';
import { when } from '../kit/when';
import { headingOf } from './RowsView';
import { FixedTextView } from './FixedTextView';
import { ReviewMargin } from './ReviewMargin';
import { askedLines } from './sheet-model';
import { usePatterns } from './use-patterns';
import { reviewOf, type Reviewing } from './reviewing';
import { textsOf } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';

export default function ReviewView({ data, justSent }: { data: SheetData; justSent: boolean }) {
  return (
    <Root>
      <Review initial={data} justSent={justSent} />
    </Root>
  );
}

function Review({ initial, justSent }: { initial: SheetData; justSent: boolean }) {
  const id = initial.submission?.id ?? '';
  const { data, refetch } = useQuery({
    queryKey: ['submission', id],
    queryFn: () => fetched<SheetData>(`/api/submissions/${id}`),
    initialData: initial,
  });
  useLive(
    [`submission:${id}`],
    useCallback(() => void refetch(), [refetch]),
  );
  const first = useMemo(() => reviewOf(data), [data]);
  const patterns = usePatterns(first?.sheet.form.usesPatterns ?? false);
  const review = useMemo(() => (patterns ? reviewOf(data) : first), [data, first, patterns]);
  if (review === null) return null;
  const { submission, changes } = review;
  const lines = linesOf(data.design);
  return (
    <>
      <div className="pt-3.5 pb-3">
        <p className="quiet">
          {submission.sender.id === data.asking.id ? (
            <a href="/" className="crumb">
              Home
            </a>
          ) : (
            <a href="/approvals" className="crumb">
              Approvals
            </a>
          )}
          {data.design.area !== '' && ` · ${data.design.area}`}
        </p>
        <h1 className="text-[23px]">
          {data.design.title} {submission.number}{' '}
          <span className="align-middle font-sans">
            <StateTag
              state={submission.state}
              words={stateWords(submission, data)}
              forYou={submission.mayDecide}
            />
          </span>
        </h1>
      </div>
      {justSent && (
        <p role="status" className="mb-3 rounded-md bg-lichen-soft px-4 py-2 font-semibold text-lichen-deep">
          Sent as {submission.number}. You can follow its path here and on Home.
        </p>
      )}
      <div className="sheet-frame">
        <div>
          <div className="flex flex-wrap gap-x-6 gap-y-1 border-b border-slate-200 py-2.5 pl-[46px] text-[14px]">
            <span>
              From <strong>{submission.sender.name}</strong>
              {submission.sender.place !== '' && `, ${submission.sender.place}`}
            </span>
            {submission.sentAt !== null && <span>Sent {when(submission.sentAt)}</span>}
            {changes !== null && changes.count > 0 && (
              <span className="marked">
                Sent again: {changes.count} {changes.count === 1 ? 'answer' : 'answers'} changed
              </span>
            )}
          </div>
          {data.design.sections
            .filter((section) => askedLines(lines.get(section.id), review.sheet).length > 0)
            .map((section) => (
              <section key={section.id} aria-label={section.title || data.design.title}>
                {section.title !== '' && <h2 className="pt-3.5 pl-[46px] text-lg">{section.title}</h2>}
                {askedLines(lines.get(section.id), review.sheet).map((line) => (
                  <ReviewLine key={line.id} line={line} review={review} />
                ))}
              </section>
            ))}
          <ReasonsGiven review={review} />
        </div>
        <ReviewMargin review={review} refetch={() => void refetch()} />
      </div>
    </>
  );
}

function stateWords(submission: SubmissionData, data: SheetData): string {
  if (submission.mayDecide) return 'Waiting for you';
  if (submission.state === 'waiting')
    return `Waiting · ${data.design.steps[submission.step ?? 0]?.label ?? ''}`;
  return {
    draft: 'Draft',
    'sent-back': 'Sent back',
    kept: 'Approved and kept',
    declined: 'Declined',
    withdrawn: 'Taken back',
    waiting: '',
  }[submission.state];
}

function ReviewLine({ line, review }: { line: Line; review: Reviewing }) {
  return (
    <div className="line">
      <span className="gutter" aria-hidden>
        {line.number}
      </span>
      <div className="grid grid-cols-1 gap-x-4.5 gap-y-2 sm:grid-cols-2">
        {line.questions.map((question) => (
          <div key={question.id} className={isField(question) ? 'min-w-0' : 'min-w-0 sm:col-span-2'}>
            {question.kind !== 'fixed-text' && (
              <p className="quiet">{isField(question) ? headingOf(question) : question.label}</p>
            )}
            {question.kind === 'fixed-text' ? (
              <FixedTextView question={question} />
            ) : question.kind === 'rows' ? (
              <RowsShown group={question} review={review} />
            ) : question.kind === 'files' ? (
              <FilesShown question={question} review={review} />
            ) : (
              <p className="break-words whitespace-pre-wrap">
                <Answer
                  question={question}
                  value={review.sheet.value([question.id])}
                  before={beforeOf(question, review)}
                />
              </p>
            )}
          </div>
        ))}
      </div>
    </div>
  );
}

/** The files of an answer as they are now; that there were others before is said. */
function FilesShown({ question, review }: { question: FilesQuestion; review: Reviewing }) {
  const ids = textsOf(review.sheet.value([question.id]));
  const before = review.before === null ? null : textsOf(review.before.value([question.id]));
  return (
    <>
      {ids.length === 0 ? '—' : <FileTiles ids={ids} name={question.label} />}
      {before !== null && before.join() !== ids.join() && (
        <p className="mt-1">
          <mark className="marked text-ink">changed</mark>{' '}
          <span className="quiet">
            {before.length === 0 ? 'there were none before' : `there were ${before.length} before`}
          </span>
        </p>
      )}
    </>
  );
}

/** The earlier value, where it reads differently; undefined where nothing changed. */
function beforeOf(question: FieldQuestion, { before, sheet }: Reviewing): Value | undefined {
  if (before === null) return undefined;
  const old = before.value([question.id]);
  return shown(question, old) === shown(question, sheet.value([question.id])) ? undefined : old;
}

function Answer({
  question,
  value,
  before,
}: {
  question: FieldQuestion;
  value: Value;
  before: Value | undefined;
}) {
  const now = shown(question, value) || '—';
  if (before === undefined)
    return <span className={question.kind === 'lookup' ? 'font-semibold' : ''}>{now}</span>;
  return (
    <>
      <span className="sr-only">changed to </span>
      <mark className="marked text-ink">{now}</mark>{' '}
      <s className="text-slate-600">
        <span className="sr-only">from </span>
        {shown(question, before) || 'empty'}
      </s>
    </>
  );
}

const numeric = (question: FieldQuestion): string =>
  ['whole', 'decimal', 'money'].includes(columnKindOf(question)) ? 'tabular text-right!' : '';

function RowsShown({ group, review }: { group: RowsQuestion; review: Reviewing }) {
  const { sheet, before, changes } = review;
  return (
    <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={group.label}>
      <table className="grid-table min-w-[480px]">
        <thead>
          <tr>
            <th className="w-8">
              <span className="sr-only">Row</span>
            </th>
            {group.columns.map((column) => (
              <th key={column.id} className={numeric(column)}>
                {headingOf(column)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sheet.filledRows(group.id).map((row, i) => {
            const added = changes?.added.has(row.id) ?? false;
            return (
              <tr key={row.id} className={added ? 'bg-marker-soft' : ''}>
                <td className="font-mono text-[13px] text-slate-600">
                  {rowLetter(i)}
                  {added && <span className="sr-only"> (new row)</span>}
                </td>
                {group.columns.map((column) => {
                  const old = before?.value([group.id, row.id, column.id]) ?? null;
                  const value = row.values.get(column.id) ?? null;
                  const changed = before !== null && !added && shown(column, old) !== shown(column, value);
                  return (
                    <td
                      key={column.id}
                      className={numeric(column)}
                      data-cell={cellKey(group.id, row.id, column.id)}
                    >
                      <Answer question={column} value={value} before={changed ? old : undefined} />
                    </td>
                  );
                })}
              </tr>
            );
          })}
          {(changes?.removed.get(group.id) ?? []).map((row) => (
            <tr key={row.id} className="text-slate-600">
              <td>
                <span className="sr-only">removed row</span>×
              </td>
              {group.columns.map((column) => (
                <td key={column.id} className={numeric(column)}>
                  <s>{shown(column, before?.value([group.id, row.id, column.id]) ?? null)}</s>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
        {group.totals.length > 0 && (
          <tfoot>
            <tr>
              <td className="border-0!" />
              {group.columns.map((column) => {
                const total = group.totals.find((one) => one.column === column.id);
                return (
                  <td key={column.id} className="tabular border-0! text-right font-semibold">
                    {total &&
                      `${total.label}  ${shown(column.kind === 'calculated' ? column : { ...total, hint: '', required: false, kind: 'calculated', expression: '', decimals: 'decimals' in column ? column.decimals : 0, unit: '' }, sheet.value([total.id]))}`}
                  </td>
                );
              })}
            </tr>
          </tfoot>
        )}
      </table>
    </div>
  );
}

function ReasonsGiven({ review: { sheet, data } }: { review: Reviewing }) {
  const numbers = lineNumbers(data.design);
  const names = new Map(
    groupsOf(data.design).flatMap((group) => group.columns.map(({ id, label }) => [id, label])),
  );
  return (
    <>
      {reasonsAsked(sheet).map((check) => (
        <div key={check.id} className="line bg-ochre-soft">
          <span className="gutter">{numbers.get(check.on)}</span>
          <div>
            <p className="flex items-center gap-2 text-[15px]">
              <MessageSquareWarning size={16} aria-hidden className="text-ochre" />
              <strong className="text-ochre">Reason given</strong> · “{check.message}”
              {names.get(check.on) && ` (${names.get(check.on)})`}
            </p>
            <p className="break-words">{sheet.reason(check.id)}</p>
          </div>
        </div>
      ))}
    </>
  );
}
