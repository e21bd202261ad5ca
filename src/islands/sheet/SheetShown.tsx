import { MessageSquareWarning } from '../kit/icons';
import { cellKey } from '../../core/approval/changes';
import { reasonsAsked } from '../../core/check/sheet-issues';
import {
  groupsOf,
  isField,
  lineNumbers,
  pickedColumn,
  rowLetter,
  type FieldQuestion,
  type FilesQuestion,
  type Line,
  type RowsQuestion,
} from '../../core/form/design';
import { shown } from '../../core/form/cells';
import { TotalsFoot } from './TotalsFoot';
import { columnKindOf } from '../../core/form/column-kind';
import type { Value } from '../../core/expression/value';
import { headingOf } from './RowsView';
import { FixedTextView } from '../kit/FixedTextView';
import { SheetSections } from './SheetSections';
import type { ShownSheet } from './reviewing';
import { textsOf } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';

/** A sheet to look at: its sections and lines, with what was there before where it is otherwise. */
export function SheetShown({ review }: { review: ShownSheet }) {
  const { data, sheet } = review;
  return (
    <>
      <SheetSections
        data={data}
        sheet={sheet}
        line={(line) => <ShownLine key={line.id} line={line} review={review} />}
      />
      <ReasonsGiven review={review} />
    </>
  );
}

function ShownLine({ line, review }: { line: Line; review: ShownSheet }) {
  return (
    <div className="line">
      <span className="gutter" aria-hidden>
        {line.number}
      </span>
      <div className={`grid grid-cols-1 gap-x-4.5 gap-y-2 ${line.half === true ? '' : 'sm:grid-cols-2'}`}>
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
function FilesShown({ question, review }: { question: FilesQuestion; review: ShownSheet }) {
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
function beforeOf(question: FieldQuestion, { before, sheet }: ShownSheet): Value | undefined {
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

export function RowsShown({ group, review }: { group: RowsQuestion; review: ShownSheet }) {
  const { sheet, before, changes } = review;
  const picks = pickedColumn(group);
  if (picks !== null) return <PicksShown group={group} column={picks} review={review} />;
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
        <TotalsFoot group={group} sheet={sheet} />
      </table>
    </div>
  );
}

/** What was picked, as words; what came and what went stands out. */
function PicksShown({
  group,
  column,
  review,
}: {
  group: RowsQuestion;
  column: FieldQuestion;
  review: ShownSheet;
}) {
  const { sheet, before, changes } = review;
  const rows = sheet.filledRows(group.id);
  const titles = rows.map((row) => ({
    id: row.id,
    title: shown(column, row.values.get(column.id) ?? null),
    isNew: changes?.added.has(row.id) ?? false,
  }));
  const gone = (changes?.removed.get(group.id) ?? []).map(({ id }) => ({
    id,
    title: shown(column, before?.value([group.id, id, column.id]) ?? null),
  }));
  return (
    <p className="flex flex-wrap gap-x-3 gap-y-1 break-words">
      {titles.length + gone.length === 0 && '—'}
      {titles.map(({ id, title, isNew }) => (
        <span key={id} className="font-semibold" data-cell={cellKey(group.id, id, column.id)}>
          {isNew ? (
            <mark className="marked text-ink">
              <span className="sr-only">added </span>
              {title}
            </mark>
          ) : (
            title
          )}
        </span>
      ))}
      {gone.map(({ id, title }) => (
        <s key={id} className="text-slate-600">
          <span className="sr-only">taken out </span>
          {title}
        </s>
      ))}
    </p>
  );
}

function ReasonsGiven({ review: { sheet, data, stood } }: { review: ShownSheet }) {
  const numbers = lineNumbers(data.design);
  const names = new Map(
    groupsOf(data.design).flatMap((group) => group.columns.map(({ id, label }) => [id, label])),
  );
  return (
    <>
      {reasonsAsked(sheet, stood).map((check) => (
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
