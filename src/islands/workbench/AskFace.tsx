import type { TotalOf } from '../../core/form/totals';
import { CalendarDays, CircleX, Plus, Search } from '../kit/icons';
import { addColumn, addQuestion, asKind, keysTaken, type AskedKind } from '../../core/form/edit';
import { offered } from '../../core/table/choice-list';
import {
  isField,
  linesOf,
  type FieldQuestion,
  type Question,
  type RowsQuestion,
} from '../../core/form/design';
import { keyFor } from '../../core/form/key';
import { suggestKind } from '../../core/form/suggest-kind';
import { toShown } from '../../core/expression/stored-text';
import { issueSentence } from '../../core/wording/issue-sentence';
import { newShortId, newUuid } from '../../core/kernel/ids';
import { NextInput, pastedLines } from '../kit/NextInput';
import { kindWords } from './kind-words';
import { QuestionMargin } from './QuestionMargin';
import type { Workbench } from './use-workbench';
import type { FaceProps } from './face-props';

/** The questions as colleagues will meet them; the margin holds the settings of the line in hand. */
export function AskFace({ bench }: FaceProps) {
  const lines = linesOf(bench.design);
  return (
    <div className="sheet-frame">
      <div>
        {bench.design.sections.map((section) => (
          <section key={section.id} aria-label={section.title || 'Section'}>
            <div className="pt-3 pr-5 pl-[46px]">
              <input
                aria-label="Title of the section"
                placeholder="Title of this section (may stay empty)"
                maxLength={200}
                className="w-full rounded border border-transparent bg-transparent font-serif text-lg font-semibold placeholder:font-normal placeholder:text-slate-500 hover:border-slate-300"
                value={section.title}
                onChange={(event) =>
                  bench.edit((design) => ({
                    ...design,
                    sections: design.sections.map((one) =>
                      one.id === section.id ? { ...one, title: event.target.value } : one,
                    ),
                  }))
                }
              />
            </div>
            {(lines.get(section.id) ?? []).map((line) => (
              <div
                key={line.id}
                className={`line relative ${line.questions.some(({ id }) => isInHand(bench, id)) ? 'bg-lichen-soft before:absolute before:inset-y-0 before:left-0 before:w-1 before:bg-lichen' : ''}`}
              >
                <span className="gutter" aria-hidden>
                  {line.number}
                </span>
                <div className="grid grid-cols-1 gap-x-4.5 gap-y-2 sm:grid-cols-2">
                  {line.questions.map((question) => (
                    <div
                      key={question.id}
                      className={isField(question) ? 'min-w-0' : 'min-w-0 sm:col-span-2'}
                    >
                      <Preview bench={bench} question={question} />
                    </div>
                  ))}
                </div>
              </div>
            ))}
            <NextQuestion bench={bench} section={section.id} />
          </section>
        ))}
      </div>
      <aside id="margin" className="margin-pane" aria-label="Settings of the line in hand">
        <QuestionMargin bench={bench} />
      </aside>
    </div>
  );
}

const isInHand = (bench: Workbench, id: string): boolean => bench.selected === id || bench.group?.id === id;

/** A total as somebody would write it. */
const asFeel: Readonly<Record<TotalOf, string>> = {
  sum: 'sum',
  count: 'count',
  mean: 'mean',
  least: 'min',
  most: 'max',
};

function Preview({ bench, question }: { bench: Workbench; question: Question }) {
  const troubles = bench.issuesAt(question.id);
  return (
    <>
      <button
        type="button"
        aria-pressed={bench.selected === question.id}
        onClick={() => bench.select(question.id)}
        className="block w-full rounded text-left"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="min-w-0 font-semibold break-words">
            {question.label ||
              (question.kind !== 'fixed-text' && (
                <em className="font-normal text-slate-600">question without words</em>
              ))}
            {question.required && question.kind !== 'calculated' && (
              <span className="ml-1.5 text-rust" aria-label="must be filled">
                ✱
              </span>
            )}
          </span>
          {question.kind !== 'fixed-text' && (
            <span className="shrink-0 font-mono text-[13px] text-slate-600">{question.key}</span>
          )}
        </span>
        {question.askWhen !== undefined && (
          <span className="quiet block break-words">
            asked only while{' '}
            <code className="font-mono">{toShown(question.askWhen, bench.scope()) || '…'}</code>
          </span>
        )}
        {isField(question) && <FieldPreview bench={bench} question={question} />}
        {question.kind === 'fixed-text' && (
          <span className="mt-1 block max-w-[68ch] break-words whitespace-pre-wrap text-slate-700">
            {question.text || 'the text that is to stand here'}
          </span>
        )}
      </button>
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
        <span>○ Yes</span>
        <span>○ No</span>
      </span>
    );
  if (question.kind === 'confirmation')
    return <span className="mt-1 block text-slate-700">☐ {question.statement || 'Yes'}</span>;
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
          {toShown(question.expression, bench.scope(bench.group ?? undefined)) || 'what is calculated?'}
        </span>
      </span>
    );
  const words =
    question.kind === 'lookup'
      ? `Pick from ${bench.tables.get(question.table)?.label ?? '…'}`
      : question.kind === 'choice'
        ? offered(question.choices)
            .map(({ label }) => label)
            .join(' · ') || 'choices'
        : kindWords[question.kind];
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
    if (column.kind === 'lookup') return `pick from ${bench.tables.get(column.table)?.label ?? '…'}`;
    return column.kind === 'calculated' ? toShown(column.expression, scope) : kindWords[column.kind];
  };
  return (
    <div className="relative mt-1 overflow-x-auto">
      <table className="grid-table">
        <thead>
          <tr>
            {group.columns.map((column) => (
              <th key={column.id} className="p-0!">
                <button
                  type="button"
                  aria-pressed={bench.selected === column.id}
                  onClick={() => bench.select(column.id)}
                  className={`w-full rounded px-2 py-1 text-left ${bench.selected === column.id ? 'bg-lichen text-white' : 'text-slate-700 hover:bg-slate-100'}`}
                >
                  {column.label || 'column'}
                  {'unit' in column && column.unit !== '' && `, ${column.unit}`}
                  {column.required && column.kind !== 'calculated' && ' ✱'}
                </button>
              </th>
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
    </div>
  );
}

/** Adds one question per line of what was typed or pasted, and takes the last in hand. */
function addLines(
  bench: Workbench,
  text: string,
  add: (label: string, kind: AskedKind, id: string) => void,
): void {
  for (const label of pastedLines(text).slice(0, 40)) {
    const id = newShortId();
    add(label, suggestKind(label), id);
    bench.select(id);
  }
}

function NextQuestion({ bench, section }: { bench: Workbench; section: string }) {
  const add = (label: string, kind: AskedKind, id: string) =>
    bench.edit((design) => {
      const key = keyFor(label, keysTaken(design));
      return addQuestion(
        design,
        section,
        asKind(
          { id, key, label, hint: '', required: false },
          kind,
          {
            id: newUuid(),
            key: '',
            label: '',
            prefix: '',
          },
          bench.data.currency,
        ),
      );
    });
  return (
    <div className="line border-b-0">
      <span className="gutter">
        <Plus size={15} aria-hidden className="ml-auto" />
      </span>
      <NextInput
        label="Next question"
        placeholder="Type the next question — “How many…”, “When…”, or paste a column list"
        onAdd={(text) => addLines(bench, text, add)}
      />
    </div>
  );
}

function NextColumn({ bench, group }: { bench: Workbench; group: RowsQuestion }) {
  const add = (label: string, kind: AskedKind, id: string) =>
    bench.edit((design) => {
      const key = keyFor(label, keysTaken(design, group.id), 'column');
      const made = asKind(
        { id, key, label, hint: '', required: false },
        kind,
        group.table,
        bench.data.currency,
      );
      return isField(made) ? addColumn(design, group.id, made) : design;
    });
  return (
    <div className="mt-2 max-w-sm">
      <NextInput
        label={`Next column of ${group.label}`}
        placeholder="Type the next column"
        onAdd={(text) => addLines(bench, text, add)}
      />
    </div>
  );
}
